# frozen_string_literal: true

# The people of a workspace, those who are invited, and the keys of its pipelines.
class PeopleResource < Resource
  get "/api/workspaces/:workspace/people" do
    owner = Role.reaches?(who.role_in(workspace), "owner")
    typed_json("people" => members.includes(:person).sort_by { |one| one.person.name.downcase }.map(&:as_document),
      "invitations" => owner ? Invitation.open.where(workspace: workspace).order(:mail).map(&:as_document) : [],
      "keys" => owner ? ApiKey.in_force.where(workspace: workspace).order(:name).map(&:as_document) : [],
      "second_factor" => workspace.second_factor,
      "mail_server" => Post.set?)
  end

  patch "/api/workspaces/:workspace/people/:id" do
    member.change(json_body["role"], heir: heir(json_body["heir"]))
    typed_json(member.as_document)
  end

  # Whoever wants to leave may; others are taken out by an owner.
  delete "/api/workspaces/:workspace/people/:id" do
    may_be_taken_out = member.person_id == who.person&.id || Role.reaches?(who.role_in(workspace), "owner")
    raise Problem.new(:not_permitted, "Only an owner takes somebody else out.") unless may_be_taken_out

    member.leave(heir: heir(params["heir"]))
    status 204
  end

  # Whoever gives a new password could use it: only who owns all that its person may see does.
  post "/api/workspaces/:workspace/people/:id/password-link" do
    person = member.person
    unless reaches_all_of?(person)
      raise Problem.new(
        :not_permitted,
        "#{person.name} reaches more than you own: they ask for a link by mail themselves, or whoever looks after this server makes one (bin/orvant invite --mail)."
      )
    end

    status 201
    typed_json(Welcome.password(person, base_address))
  end

  post "/api/workspaces/:workspace/invitations" do
    status 201
    typed_json(Welcome.member(workspace, json_body["mail"], json_body["role"], base_address, by: who.person))
  end

  delete "/api/workspaces/:workspace/invitations/:id" do
    Invitation.open.where(workspace: workspace).find(params["id"]).delete
    status 204
  end

  post "/api/workspaces/:workspace/keys" do
    made, token = ApiKey.issue(workspace, name: json_body["name"], role: json_body["role"], by: who.person)
    status 201
    typed_json(made.as_document.merge("key" => token))
  end

  delete "/api/workspaces/:workspace/keys/:id" do
    ApiKey.in_force.where(workspace: workspace).find(params["id"]).take_back
    status 204
  end

  private

  def members = Membership.where(workspace: workspace)

  def member = @member ||= members.find_by!(person_id: params["id"])

  # An owner to whom what somebody has made passes.
  def heir(id)
    return if id.to_s.empty?

    members.find_by(person_id: id, role: "owner")&.person ||
      raise(Problem.new(:unusable_input, "Invitations and keys pass to an owner of this workspace only."))
  end

  def reaches_all_of?(person)
    return false if person.founder

    person.memberships.pluck(:workspace_id)
      .all? { |id| Membership.exists?(person: who.person, workspace_id: id, role: "owner") }
  end
end
