# frozen_string_literal: true

require_relative "../app_helper"

# What belongs to one workspace is reached through no other: every operation that names something by its
# number is asked for what another workspace has, by the owner of an empty one.
RSpec.describe Api, :swept do
  before { Founding.call(title: "Stranger", own_hosts: ["a.test"]) }

  # The least that a body needs to be read.
  def least(schema)
    schema = ApiDocument.own.document.dig(*schema["$ref"].delete_prefix("#/").split("/")) if schema["$ref"]
    case Array(schema["type"]).first
    when "object"
      schema.fetch("required", [])
        .to_h { |name|
          [name, {"decision" => "held", "state" => "declined"}[name] || least(schema["properties"].fetch(name))]
        }
    when "array" then []
    when "string" then schema["enum"]&.first || ((schema["format"] == "date") ? "2030-01-01" : "a")
    when "integer" then 1
    else false
    end
  end

  # Everything but what asking itself leaves behind.
  def state
    tables = ActiveRecord::Base.connection.tables - %w[schema_migrations ar_internal_metadata delayed_jobs heartbeats signpost_passes pass_logs]
    tables.to_h do |table|
      [table, ActiveRecord::Base.connection.select_rows("SELECT * FROM #{table} ORDER BY 1").hash]
    end
  end

  it "answers with nothing of another's, and changes nothing of it" do
    ours = Workspace.find_by!(name: "skerry-line")
    ours.build_sheets.create!(name: "x", rows: [])
    if ours.senders.none?
      ours.senders.create!(host: "b.test", example: "http://b.test/", ways: [], pages: [], paths: [], seen_at: Time.now)
    end
    numbers = (1..3).to_a + [Finding, Fix, Link, Import, Sweep, BuildSheet, Signpost, Sender, RowTemplate].filter_map { |model| model.maximum(:id) }.uniq
    before = state
    named = ApiDocument.own.operations.select do |one|
      one.template.start_with?("/api/workspaces/{workspace}/") && one.template.match?(/\{(?:id|version|sweep|name)\}/)
    end
    answers = named.product(numbers).map do |one, number|
      asked = one.template.sub("{workspace}", "stranger")
        .sub("{name}", "book-a-day-pass")
        .gsub(/\{\w+\}/, number.to_s)
      env = Rack::MockRequest.env_for("http://127.0.0.1#{asked}", :method => one.method.upcase, :input => one.json ? JSON.generate(least(one.json)) : "", "HTTP_HOST" => "127.0.0.1")
      [one.to_s, Api.call(env).first]
    end
    # Its own first version is its own.
    own = answers.reject { |name, _| name.include?("/convention/versions/{version}") }
    expect(own.size).to be > 100
    expect(own.reject { |_, status| status == 404 }).to eq([])
    after = state
    changed = before.keys.reject { |table| before[table] == after[table] }
    expect(changed - %w[convention_versions workspaces deeds]).to eq([])
  end

  # Every place in a body at which a number can name a row: those of the OpenAPI document, and steps of rehearsals.
  it "takes no number of another's inside a body" do
    foreign = Workspace.find_by!(name: "skerry-line").links.live.first
    stranger = Workspace.find_by!(name: "stranger")
    ask = lambda do |method, path, body|
      status, _, parts = Api.call(Rack::MockRequest.env_for("http://127.0.0.1/api/workspaces/stranger#{path}", :method => method, :input => JSON.generate(body), "HTTP_HOST" => "127.0.0.1", "CONTENT_TYPE" => "application/json"))
      said = +""
      parts.each { |part| said << part }
      [status, said]
    end
    before = foreign.attributes
    expect(ask.call("POST", "/sweeps", {links: [foreign.id]}).first).to eq(422)
    acted = ask.call("POST", "/links/acts", {act: "delete", ids: [foreign.id]})
    expect([acted.first, JSON.parse(acted.last)["links"]]).to eq([201, 0])
    rehearsal = {rehearsal: "x", title: "X", about: "x", owner: "", steps: [{open: {link: foreign.id}}]}
    expect(ask.call("PATCH", "", {rehearsals: [rehearsal]}).first).to eq(200)
    expect(stranger.rehearsal_scripts.first.rehearsal.landing).to be_nil
    expect(ask.call("GET", "/settings", {}).last).not_to include(foreign.address)
    expect(foreign.reload.attributes).to eq(before)
  end
end
