# frozen_string_literal: true

# Who is at work: signing in and out, one's own account, and the links that let somebody in once.
class SessionResource < Resource
  # A browser on which somebody has signed in is not kept waiting for what strangers try.
  KNOWN = "orvant_known"
  KNOWN_LASTS = 365 * 24 * 3_600

  get "/api/session" do
    typed_json(document)
  end

  post "/api/session" do
    wish = json_body
    person = SigningIn.new(wish["mail"], wish["password"], code: wish["code"], machine: request.ip,
      known: known?(wish["mail"])).call
    raise Problem.new(:wrong_password) unless person

    let_in(person)
  end

  delete "/api/session" do
    SignIn.of(request.cookies[Access::COOKIE])&.delete
    response.delete_cookie(Access::COOKIE, path: "/")
    status 204
  end

  patch "/api/account" do
    person = myself
    wish = json_body
    if wish.key?("password")
      prove_myself(wish["current_password"])
      person.take_password(wish["password"])
    end
    person.take_name(wish["name"]) if wish.key?("name")
    person.save!
    wish.key?("password") ? let_in(person) : typed_json(document)
  end

  get "/api/account/sign-ins" do
    current = SignIn.of(request.cookies[Access::COOKIE])
    typed_json("sign_ins" => myself.sign_ins.where.not(id: SignIn.over).order(seen_at: :desc).map { |one|
      one.as_document.merge("current" => one == current)
    })
  end

  delete "/api/account/sign-ins/:id" do
    myself.sign_ins.find(params["id"]).delete
    status 204
  end

  get "/api/account/second-factor" do
    typed_json(second_factor_document)
  end

  # Whoever has found a screen open turns nothing on or off: the password is asked for.
  post "/api/account/second-factor" do
    prove_myself(json_body["current_password"])
    status 201
    typed_json(myself.second_factor.begin)
  end

  post "/api/account/second-factor/confirm" do
    codes = Tries.count("code:#{myself.mail}") { myself.second_factor.confirm(json_body["code"]) }
    typed_json(second_factor_document.merge("recovery_codes" => codes))
  end

  post "/api/account/second-factor/turn-off" do
    prove_with_code(json_body["current_password"], json_body["code"])
    asking = Workspace.shown.where(id: myself.memberships.select(:workspace_id),
      second_factor: true).pick(:title)
    if asking
      raise Problem.new(:unusable_input, "“#{asking}” asks everybody in it for a second factor: it stays on.")
    end

    myself.second_factor.turn_off
    typed_json(second_factor_document)
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
      .accept(
        **json_body.slice("name", "mail", "password", "code").transform_keys(&:to_sym).then { |wish| {name: nil, mail: nil, **wish} },
        machine: request.ip
      ))
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
    keep_cookie(Access::COOKIE, SignIn.begin(person, machine: request.ip, agent: request.user_agent), SignIn::LASTS)
    keep_cookie(KNOWN, "#{person.id}.#{known_mark(person.id)}", KNOWN_LASTS)
    env[Resource::CALLER] = Caller.new(person: person)
    typed_json(document)
  end

  def keep_cookie(name, value, lasts)
    response.set_cookie(name, value: value, path: "/", httponly: true, same_site: :lax, secure: request.ssl?, max_age: lasts)
  end

  # Whether the person of an address has signed in on this browser before.
  def known?(mail)
    id, mark = request.cookies[KNOWN].to_s.split(".", 2)
    person = Person.find_by(mail: mail.to_s.strip.downcase)
    !person.nil? && person.id.to_s == id && Rack::Utils.secure_compare(mark.to_s, known_mark(person.id))
  end

  def known_mark(id) = OpenSSL::HMAC.hexdigest("SHA256", Secret.salt, "known #{id}")

  def myself = who.person || raise(Problem.new(:not_permitted, "There is no account yet."))

  def prove_myself(password)
    return if Tries.count("mail:#{myself.mail}", known: true) { Person.with(myself.mail, password) }

    raise Problem.new(:wrong_password, "The password of now is another.")
  end

  def prove_with_code(password, code)
    return if SigningIn.new(myself.mail, password, code: code, known: true).call

    raise Problem.new(:wrong_password, "The password of now is another, or the code.")
  end

  def second_factor_document
    {"on" => myself.reload.second_factor.on?, "recovery_codes_left" => myself.second_factor.left}
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
