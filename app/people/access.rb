# frozen_string_literal: true

require "rack"

# Lets a request through to an operation that whoever asks may do. The OpenAPI document names the least that
# each asks for (x-role), and whether only a person may (x-in-person). What the document does not know is not
# there, however its path is written.
class Access
  COOKIE = "orvant_sign_in"
  # What anybody may fetch: it describes the API and holds nothing of anybody.
  OPEN = %w[/api/openapi.yaml].freeze

  # @param env [Hash] of Rack
  # @return [Caller]
  def self.caller(env) = env[Resource::CALLER] ||= recognise(Rack::Request.new(env))

  def self.recognise(request)
    if request.has_header?("HTTP_AUTHORIZATION")
      return Caller.new(key: ApiKey.of(request.get_header("HTTP_AUTHORIZATION")[/\ABearer (\S+)\z/, 1].to_s))
    end
    return Caller.new(alone: true) if Caller.alone?

    Caller.new(person: SignIn.of(request.cookies[COOKIE])&.person)
  end
  private_class_method :recognise

  # @param app [#call]
  # @param document [ApiDocument]
  def initialize(app, document = ApiDocument.own)
    @app = app
    @document = document
  end

  # @param env [Hash] of Rack
  # @return [Array] of Rack: a problem where it may not
  def call(env)
    return @app.call(env) unless api?(env["PATH_INFO"]) && !OPEN.include?(env["PATH_INFO"])

    caller = self.class.caller(env)
    admit(caller, env)
    Acting.set(author: caller.name) { @app.call(env) }
  rescue Problem => problem
    problem.to_rack
  end

  private

  # Routes match an escaped letter as the letter itself.
  def api?(path) = path.gsub(/%\h\h/) { |escape| escape[1..].hex.chr }.b.match?(%r{\A/+api(?:/|\z)}in)

  def admit(caller, env)
    operation, given = @document.find(env["REQUEST_METHOD"].sub("HEAD", "GET"), env["PATH_INFO"])
    raise Problem.new(:not_found) unless operation

    least = operation.role
    return if least == "nobody"
    raise Problem.new(:not_signed_in) if caller.stranger?
    if operation.in_person && caller.key
      raise Problem.new(:not_permitted, "Only a person who has signed in may do that; a key may not.")
    end

    refuse(caller, least, given) unless permitted?(caller, least, given)
    hold_second_factor(caller, given) if Role::NAMES.include?(least)
  end

  # A workspace may ask everybody in it for a second factor; keys are one.
  def hold_second_factor(caller, given)
    return unless caller.person && workspace(given)&.second_factor && !caller.person.second_factor.on?

    raise Problem.new(:second_factor_missing)
  end

  def permitted?(caller, least, given)
    case least
    when "alone" then caller.alone?
    when "person" then true
    when "founder" then caller.founds?
    else Role.reaches?(role(caller, given), least)
    end
  end

  def role(caller, given) = workspace(given)&.then { |one| caller.role_in(one) }

  # What no name can be is there nowhere.
  def workspace(given)
    Workspace.shown.find_by(name: URI.decode_www_form_component(given["workspace"].to_s).scrub.delete("\0"))
  rescue ArgumentError
    nil
  end

  # Whoever is not in a workspace is not told that there is one.
  def refuse(caller, least, given)
    unless Role::NAMES.include?(least)
      return raise Problem.new(:not_permitted, "Only the owner of a workspace may do that.")
    end

    role = role(caller, given) or raise Problem.new(
      :not_found,
      "There is no workspace “#{given["workspace"].to_s[0, Orvant::Cut::QUOTE]}”."
    )
    raise Problem.new(:not_permitted, "You are #{role} here; that is for #{least}s.")
  end
end
