# frozen_string_literal: true

# Workspaces, and what is wrong in each.
class WorkspacesResource < Resource
  get "/api/workspaces" do
    json("workspaces" => WorkspaceList.new(who.workspaces).call)
  end

  # What a site says of itself; nothing is kept.
  post "/api/workspaces/look" do
    typed_json(SiteLook.new(json_body["address"], json_body.fetch("host_map", {})).call)
  end

  post "/api/workspaces" do
    wish = json_body
    made = Founding.call(
      title: wish["title"],
      own_hosts: wish.fetch("own_hosts", []),
      convention: wish["convention"],
      currency: wish.fetch("currency", "EUR"),
      host_map: wish.fetch("host_map", {}),
      time_zone: wish.fetch("time_zone", ""),
      language: wish.fetch("language", "")
    )
    Membership.create!(person: who.person, workspace: made, role: "owner") if who.person
    status 201
    typed_json(WorkspaceSummary.new(made).document)
  end

  get "/api/workspaces/:workspace" do
    json(WorkspaceSummary.new(workspace).document)
  end

  patch "/api/workspaces/:workspace" do
    json_body["networks"].to_a.each { |one| NetworkKey.hold_typed(one["key"]) }
    WorkspaceChange.new(workspace).call(json_body)
    typed_json(WorkspaceSummary.new(workspace).document)
  end

  # Whoever deletes for good types the name, so that no other goes by mistake.
  delete "/api/workspaces/:workspace" do
    unless params["title"] == workspace.title
      raise Problem.new(:unusable_input, "Type the name “#{workspace.title}” to delete it for good.")
    end

    Closing.new(workspace).call
    status 204
  end

  # A setting as it was before a deed.
  post "/api/workspaces/:workspace/settings/take-back/:id" do
    WorkspaceChange.new(workspace).take_back(workspace.deeds.where.not(setting: "").find(params["id"]))
    typed_json(settings_document)
  end

  get "/api/workspaces/:workspace/settings" do
    typed_json(settings_document)
  end

  private

  def settings_document
    WorkspaceChange.new(workspace).document.merge(
      "picture_bytes" => Thinning.new(workspace).room,
      "unmatched" => UnmatchedSettings.new(workspace).pages
    )
  end
end
