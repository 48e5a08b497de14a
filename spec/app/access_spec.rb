# frozen_string_literal: true

require_relative "../app_helper"

# Who may do what: every operation of the API against every role, decided at its door.
RSpec.describe Access, :api do
  def least(operation)
    AccessTable::LEAST.find { |_, all| all.include?(operation) }&.first ||
      (operation.start_with?("GET") ? "reader" : "editor")
  end

  before do
    DemoFixture.clear
    @here = Founding.call(title: "Here", own_hosts: ["a.test"])
    @there = Founding.call(title: "There", own_hosts: ["b.test"])
  end

  def person(role, workspace = @here)
    Person.create!(name: role, mail: "#{role}-#{workspace.name}@example.test", password_digest: "x")
      .tap { |one| Membership.create!(person: one, workspace: workspace, role: role) }
  end

  def caller_of(name)
    case name
    when "alone" then Caller.new(alone: true)
    when "stranger" then Caller.new
    when "owner elsewhere" then Caller.new(person: person("owner", @there))
    when /key of an (\w+)/ then Caller.new(key: ApiKey.issue(@here, name: "p", role: $1).first)
    else Caller.new(person: person(name))
    end
  end

  def admitted(operation, who)
    method, path = operation.split(" ", 2)
    path = path.sub("{workspace}", "here").gsub(/\{\w+\}/, "1")
    status, = described_class.new(->(_) { [200, {}, []] })
      .call("REQUEST_METHOD" => method, "PATH_INFO" => path, Resource::CALLER => who)
    status
  end

  AccessTable::REACH.each do |name, levels|
    it "lets through #{name} to what it reaches, and to nothing else" do
      who = caller_of(name)
      verdicts = AccessTable::OPERATIONS.to_h { |operation| [operation, admitted(operation, who)] }
      expected = AccessTable::OPERATIONS.to_h do |operation|
        open = levels.include?(least(operation)) && !(who.key && operation.match?(AccessTable::IN_PERSON))
        [operation, open ? 200 : refusal(name, operation, who)]
      end
      expect(verdicts).to eq(expected)
    end
  end

  # Whoever is not in a workspace is not told that there is one.
  def refusal(name, operation, who)
    return 401 if name == "stranger"
    return 403 if who.key && operation.match?(AccessTable::IN_PERSON)

    (name == "owner elsewhere" && operation.include?("{workspace}")) ? 404 : 403
  end

  it "is documented: docs/roles.md is what the OpenAPI document says" do
    require_relative "../../app/cli/roles_document"
    expect(File.read(File.join(ROOT, "docs/roles.md"))).to eq(RolesDocument.new.to_s), "run: bin/orvant roles > docs/roles.md"
  end

  # A path that means an operation to a router, but is written as none.
  ["/%61pi/workspaces", "/api/%77orkspaces", "//api/workspaces", "/API/workspaces", "/api%2Fworkspaces", "/api/workspaces/", "/api/workspaces/here/nowhere", "/api/workspaces/here%2Flinks"].each do |path|
    it "knows no other way to write #{path}" do
      Founder.make(name: "Ann", mail: "ann@example.test", password: "four walls of rain")
      status, _, body = Api.call(Rack::MockRequest.env_for("/", "HTTP_HOST" => "127.0.0.1")
        .merge("PATH_INFO" => path))
      said = +""
      body.each { |part| said << part }
      expect([status, said]).to match([be_in([401, 404]), a_string_including("\"kind\"")])
    end
  end
end
