# frozen_string_literal: true

require "json"
require "rack/deflater"
require "sinatra/base"
require_relative "../../config/environment"
require_relative "problem"
require_relative "content_security"
require_relative "paging"
require_relative "request_contract"

# JSON over HTTP, and the pages that use it. One file a resource; app/api/openapi.yaml describes it all.
class Api < Sinatra::Base
  WEB = File.join(Settings::ROOT, "web", "dist")
  MAX_UPLOAD = Orvant::Inventory::Table::MAX_BYTES

  set :environment, ENV.fetch("RACK_ENV", "production").to_sym
  set :show_exceptions, false
  set :raise_errors, false
  set :dump_errors, false
  set :static, false
  set :protection, except: %i[json_csrf http_origin session_hijacking remote_token authenticity_token]
  set :host_authorization, permitted_hosts: ["127.0.0.1", "localhost", "::1",
    *Settings["ORVANT_HOSTS"].split(",").map(&:strip)],
    message: "This name is not one of Orvant's own; start it with ORVANT_HOSTS to permit it."

  # Short answers cost more to compress than to send.
  COMPRESSED_FROM = 1_024
  COMPRESSED = %w[text/html text/css text/csv text/javascript application/javascript application/json application/problem+json application/yaml image/svg+xml font/ttf].freeze

  use Rack::Deflater, include: COMPRESSED,
    if: ->(_, _, headers, body) { (headers["content-length"] || (body.respond_to?(:sum) ? body.sum(&:bytesize) : COMPRESSED_FROM)).to_i >= COMPRESSED_FROM }
  use ContentSecurity
  use RequestContract

  before "/api/*" do
    content_type :json
    response["cache-control"] = "no-store"
    raise Problem.new(:foreign_origin) if !request.safe? && foreign?
  end

  error Problem do
    problem(env["sinatra.error"])
  end

  error Orvant::Error do
    problem(Problem.new(:unusable_input, env["sinatra.error"].message))
  end

  error Sinatra::BadRequest do
    problem(Problem.new(:unusable_input, "The parameters of this address cannot be read; take away what stands behind its question mark."))
  end

  error ActiveRecord::RecordNotFound do
    problem(Problem.new(:not_found))
  end

  error do
    warn "#{env["sinatra.error"].class}: #{env["sinatra.error"].message}\n  #{env["sinatra.error"].backtrace.first(8).join("\n  ")}"
    problem(Problem.new(:unforeseen))
  end

  not_found do
    request.path.start_with?("/api/") ? problem(Problem.new(:not_found)) : page
  end

  helpers do
    include Paging

    def problem(problem)
      status problem.status
      content_type "application/problem+json"
      problem.to_json
    end

    # A page on another site cannot make a browser change anything here: browsers name the origin of every such request.
    def foreign?
      origin = request.get_header("HTTP_ORIGIN")
      (origin && origin != request.base_url) || %w[cross-site same-site].include?(request.get_header("HTTP_SEC_FETCH_SITE"))
    end

    # What is shown of links and visits holds no personal data.
    def json(document) = JSON.generate(masked(document))

    def masked(document) = Orvant::Export::Masking.masked(document, personal_data)

    # @return [Orvant::PersonalData] as the workspace's convention says
    def personal_data = params["workspace"].nil? ? Orvant::PersonalData.usual : convention.personal_data

    # What a person has typed comes back as it was typed.
    def typed_json(document) = JSON.generate(document)

    # @return [Hash] what the request's body says; {} where it is empty
    def json_body = env.fetch(RequestContract::JSON_BODY)

    def workspace
      @workspace ||= Workspace.find_by(name: params["workspace"]) || raise(Problem.new(:not_found,
        "There is no workspace “#{params["workspace"].to_s[0, 80]}”."))
    end

    # @return [Date]
    # @raise [Problem]
    def date(text, what)
      Date.iso8601(text.to_s)
    rescue ArgumentError
      raise Problem.new(:unusable_input, "#{what} is no date; write it as 2026-11-25.")
    end

    # @return [String] one line of text
    def line(text, most = 200) = text.to_s.scrub("").gsub(/[[:cntrl:]]+/, " ").strip[0, most]

    def convention = @convention ||= workspace.convention

    def csv(filename, headers, rows)
      content_type "text/csv", charset: "utf-8"
      attachment filename
      Orvant::Export::CSVTable.write(headers, rows.lazy.map { |row| masked(row) })
    end

    def anatomy(address) = Orvant::Convention::Anatomy.of(Orvant::Address.new(personal_data.mask(address)), convention).map(&:to_h)

    def page
      file = File.join(WEB, "index.html")
      halt 503, {"content-type" => "text/plain"}, "The screens are not built yet: run bin/setup." unless File.exist?(file)

      status 200
      content_type :html
      File.read(file).sub("{{nonce}}", env["orvant.nonce"])
    end
  end

  get "/api/openapi.yaml" do
    content_type "application/yaml"
    File.read(File.join(__dir__, "openapi.yaml"))
  end

  get "/assets/*" do
    path = File.expand_path(File.join(WEB, "assets", params["splat"].first))
    pass unless path.start_with?(File.join(WEB, "assets/")) && File.file?(path)
    cache_control :public, :immutable, max_age: 31_536_000
    send_file path
  end
end

%w[workspaces convention waivers sheets signposts links imports sweeps pages senders rehearsals traffic fixes].each { |resource| require_relative resource }
