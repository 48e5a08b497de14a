# frozen_string_literal: true

require_relative "../app_helper"

# Seeded requests against every operation: none trips the server. The sharp part runs always, ten thousand in
# `bin/test long`.
RSpec.describe "Seeded requests", :api, :demo do
  seed = Integer(ENV.fetch("ORVANT_SEED", 20_261_126))
  many = ENV.key?("ORVANT_LONG") ? 10_000 : 400

  # Deeds that would reach out over the network or run for long are stopped at the door: it is the request
  # that is tried.
  before do
    allow(Delayed::Job).to receive(:enqueue)
    allow(FollowOnce).to receive(:for).and_return({"outcome" => "refused", "lost" => [], "hops" => [], "offer" => nil})
    allow_any_instance_of(SignpostJudge).to receive(:objections).and_return([])
  end

  def person(role, workspace)
    Person.create!(name: role, mail: "#{role}-#{workspace.name}@example.test", password_digest: "x")
      .tap { |one| Membership.create!(person: one, workspace: workspace, role: role) }
  end

  # Everything of a workspace but what asking itself leaves behind.
  def state(workspace)
    connection = ActiveRecord::Base.connection
    tables = connection.tables.select { |table| connection.column_exists?(table, :workspace_id) } - %w[asked_periods prepared_files bundle_imports]
    tables.to_h { |table| [table, connection.select_rows("SELECT * FROM #{table} WHERE workspace_id = #{workspace.id} ORDER BY 1").hash] }
  end

  # As a server hands it on: not even the address is looked at before.
  def answer(one, who = nil)
    path, query = one.path.split("?", 2)
    body = (one.method == "get") ? "" : one.body
    env = Rack::MockRequest.env_for("/", :method => one.method.upcase, :input => body, "HTTP_HOST" => "127.0.0.1", "CONTENT_TYPE" => one.type)
    env[Resource::CALLER] = who if who
    status, _, answered = Api.call(env.merge("PATH_INFO" => path, "QUERY_STRING" => query.to_s))
    said = +""
    answered.each { |part| said << part.b }
    [status, said]
  end

  it "are answered in words or done: #{many} of seed #{seed}" do
    requests = HostileRequests.new(ApiDocument.own, seed)
    faults =
      Array.new(many) { requests.next }.filter_map do |one|
        status, said = answer(one)
        next if status < 400 || (status < 500 && said.include?("detail"))

        [status, one.method, one.path[0, 200], one.body[0, 200], said[0, 100]]
      end
    expect(faults).to eq([])
  end

  it "are answered to four roles, none of which writes or reads what is another's" do
    here = Workspace.find_by!(name: "skerry-line")
    there = Founding.call(title: "Another secret place", own_hosts: ["secret.test"])
    LinkImporting.new(there, "address,kind\nhttp://secret.test/?utm_source=hidden-treasure,ad\n", filename: "a.csv").call
    callers = %w[reader editor owner].map { |role| Caller.new(person: person(role, here)) } << Caller.new
    before = state(there)
    requests = HostileRequests.new(ApiDocument.own, seed + 1)
    faults = Array.new(many) { |number| [requests.next, callers[number % callers.size]] }.filter_map do |one, who|
      status, said = answer(one, who)
      next if status < 500 && !said.match?(/hidden-treasure|secret\.test/) && (who.person || status == 401 || status < 500)

      [status, one.method, one.path[0, 200], said[0, 100]]
    end
    expect([faults, state(there) == before]).to eq([[], true])
  end
end
