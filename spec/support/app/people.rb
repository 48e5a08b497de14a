# frozen_string_literal: true

# A workspace, and people who ask the API for something, each by their own browser or key.
RSpec.shared_context "people" do
  let(:secret) { "four walls of rain" }
  include_context "cheap passwords"

  before do
    DemoFixture.clear
    @here = Founding.call(title: "Here", own_hosts: ["a.test"])
  end

  # @return [String] path of an invitation in an answer
  def link_of(answer) = "/api/invitations/#{answer["link"][%r{[^/]+\z}]}"

  # @return [Array(Integer, Object)] status and document
  def ask(method, path, body = nil, browser: nil, key: nil)
    env = {:method => method, :input => body ? JSON.generate(body) : "", "HTTP_HOST" => "127.0.0.1", "CONTENT_TYPE" => "application/json", "HTTP_COOKIE" => browser&.then { |token| "orvant_sign_in=#{token}" },
           "HTTP_AUTHORIZATION" => key&.then { |text| "Bearer #{text}" }}.compact
    status, headers, parts = Api.call(Rack::MockRequest.env_for("http://127.0.0.1#{path}", env))
    @cookie = headers["set-cookie"].to_s
    said = +""
    parts.each { |part| said << part }
    parts.close if parts.respond_to?(:close)
    [status, said.empty? ? nil : JSON.parse(said)]
  end

  def found(name = "Ann", mail = "ann@example.test")
    expect(ask("POST", "/api/owner", {name: name, mail: mail, password: secret}).first).to eq(201)
    token
  end

  def token = @cookie[/orvant_sign_in=([^;]+)/, 1]

  def join(mail, role, by:, name: mail[/\w+/].capitalize)
    _, invited = ask("POST", "/api/workspaces/here/invitations", {mail: mail, role: role}, browser: by)
    expect(ask("POST", "/api/invitations/#{invited["link"][%r{[^/]+\z}]}", {name: name, password: secret}).first).to eq(200)
    token
  end

  def id_of(mail) = Person.find_by!(mail: mail).id
end
