# frozen_string_literal: true

# Who is at work: signing in and out, one's own account, and the links that let somebody in once.
class SessionResource < Resource
  get "/api/session" do
    typed_json(document)
  end

  post "/api/session" do
    person = Tries.count("mail:#{json_body["mail"].to_s.strip.downcase}", "machine:#{request.ip}") do
      Person.with(json_body["mail"], json_body["password"])
    end
    raise Problem.new(:wrong_password) unless person

    let_in(person)
  end

  delete "/api/session" do
    SignIn.of(request.cookies[Access::COOKIE])&.delete
    response.delete_cookie(Access::COOKIE, path: "/")
    status 204
  end

  patch "/api/account" do
    person = who.person or raise Problem.new(:not_permitted, "There is no account yet.")
    wish = json_body
    if wish.key?("password")
      known = Tries.count("mail:#{person.mail}") { Person.with(person.mail, wish["current_password"]) }
      raise Problem.new(:wrong_password, "The password of now is another.") unless known
      person.take_password(wish["password"])
    end
    person.take_name(wish["name"]) if wish.key?("name")
    person.save!
    let_in(person)
  end

  # Of the first account, while nobody has one.
  post "/api/owner" do
    status 201
    let_in(Founder.make(**json_body.slice("name", "mail", "password").transform_keys(&:to_sym)))
  end

  get "/api/invitations/:token" do
    typed_json(Invitation.with(params["token"]).for_its_guest)
  end

  post "/api/invitations/:token" do
    let_in(Invitation.with(params["token"])
      .accept(name: json_body["name"], mail: json_body["mail"], password: json_body["password"]))
  end

  # Whether there is such an account is not told, neither by the answer nor by its time.
  post "/api/password-links" do
    unless Post.set?
      raise Problem.new(
        :unusable_input,
        "No mail server is set here: ask an owner of your workspace for a link."
      )
    end

    address = json_body["mail"].to_s
    base = base_address
    Thread.new do
      ActiveRecord::Base.connection_pool.with_connection do
        Person.find_by(mail: address.strip.downcase)&.then { |person| Welcome.password(person, base) }
      end
    end
    status 202
    typed_json("said" => "If there is an account for this address, a link is on its way to it.")
  end

  private

  # A visit that begins gets a token of its own, whatever the browser sent.
  def let_in(person)
    SignIn.of(request.cookies[Access::COOKIE])&.delete
    response.set_cookie(
      Access::COOKIE,
      value: SignIn.begin(person),
      path: "/",
      httponly: true,
      same_site: :lax,
      secure: request.ssl?,
      max_age: SignIn::LASTS
    )
    env[Access::CALLER] = Caller.new(person: person)
    typed_json(document)
  end

  def document
    {"alone" => who.alone?,
     "person" => who.person&.as_document,
     "key" => who.key&.name,
     "makes_workspaces" => who.founds?,
     "mail_server" => Post.set?,
     "first_owner_awaited" => !who.alone? && !Person.exists?, "roles" => roles}
  end

  def roles
    return {} if who.stranger? || who.alone?
    return {who.key.workspace.name => who.key.role} if who.key

    who.person.memberships.joins(:workspace).pluck("workspaces.name", :role).to_h
  end
end
