# frozen_string_literal: true

require "rack/deflater"

# JSON over HTTP, and the pages that use it. One class a resource; app/api/openapi.yaml describes it all.
class Api < Resource
  WEB = File.join(Settings::ROOT, "web", "dist")

  set :protection, except: %i[json_csrf http_origin session_hijacking remote_token authenticity_token]
  # As they stand in an address (RFC 3986, 3.2.2).
  HOSTS = ["127.0.0.1", "localhost", "::1", *Settings["ORVANT_HOSTS"].split(",").map(&:strip)]
    .map { |host| (host.count(":") > 1 && !host.start_with?("[")) ? "[#{host}]" : host }.freeze

  set :host_authorization, permitted_hosts: HOSTS,
    message: "This name is not one of Orvant's own; start it with ORVANT_HOSTS to permit it."

  # Short answers cost more to compress than to send.
  COMPRESSED_FROM = 1_024
  COMPRESSED = %w[text/html text/css text/csv text/javascript application/javascript application/json application/problem+json application/yaml image/svg+xml font/ttf].freeze

  use Forwarded
  use Rack::Deflater, include: COMPRESSED,
    if: ->(_, _, headers, body) {
      (headers["content-length"] ||
          (body.respond_to?(:sum) ? body.sum(&:bytesize) : COMPRESSED_FROM)).to_i >= COMPRESSED_FROM
    }
  use ContentSecurity
  use OwnOrigin
  Tries.set_up
  use Rack::Attack
  use Access
  use RequestContract
  [
    SessionResource,
    PeopleResource,
    WorkspacesResource,
    BundlesResource,
    ConventionsResource,
    RuleEffectsResource,
    WaiversResource,
    SheetsResource,
    SignpostsResource,
    LinksResource,
    LinkEvidenceResource,
    ImportsResource,
    SweepsResource,
    ClickHostsResource,
    PagesResource,
    SendersResource,
    RehearsalsResource,
    RecordersResource,
    TrafficRowsResource,
    FixesResource,
    HistoryResource,
    HealthResource
  ].each do |resource|
    use resource
  end

  not_found do
    next no_file if request.path_info.start_with?("/assets/")

    request.path.start_with?("/api/") ? problem(Problem.new(:not_found)) : page
  end

  get "/api/openapi.yaml" do
    content_type "application/yaml"
    ApiDocument.own.document.to_yaml
  end

  get "/assets/*" do
    name = params["splat"].first.to_s
    halt 404 if name.include?("\0") || !name.valid_encoding?
    path = File.expand_path(File.join(WEB, "assets", name))
    halt 404 unless path.start_with?(File.join(WEB, "assets/")) && File.file?(path)
    cache_control :public, :immutable, max_age: 31_536_000
    compressed?("#{path}.br") ? send_compressed(path) : send_file(path)
  end

  private

  def no_file
    content_type :txt
    "There is no such file."
  end

  def compressed?(file)
    request.accept_encoding.any? { |name, weight| name == "br" && weight.positive? } && File.file?(file)
  end

  def send_compressed(path)
    headers "content-encoding" => "br", "vary" => "accept-encoding"
    send_file "#{path}.br", type: File.extname(path)
  end

  def page
    file = File.join(WEB, "index.html")
    unless File.exist?(file)
      halt 503, {"content-type" => "text/plain"}, "The screens are not built yet: run bin/setup."
    end

    status 200
    content_type :html
    File.read(file).sub("{{nonce}}", env["orvant.nonce"])
  end
end
