# frozen_string_literal: true

require_relative "../app_helper"

# What was done, by whom, and the way back.
RSpec.describe History, :api, :demo do
  def told = call(:get, "/history")["deeds"].map { |deed| deed.values_at("what", "by", "undo", "undone") }

  it "tells of each deed the latest first, and of what has been taken back that it was" do
    before = told.size
    act = call(:post, "/links/acts?kind=print", body: JSON.generate("act" => "label", "value" => "quay"))
    sheet = call(:post, "/sheets", body: JSON.generate("name" => "May", "rows" => []))
    call(:post, "/sheets/#{sheet["id"]}/throw-away", body: "{}", expect_status: 200)
    expect(told.first(2)).to contain_exactly(["10 links labelled “quay”", "", "act", false], ["The sheet “May” thrown away, with 0 rows", "", "sheet", false])
    expect(told.size).to eq(before + 2)

    call(:post, "/links/acts/#{act["id"]}/undo", body: "{}", expect_status: 200)
    call(:post, "/sheets/#{sheet["id"]}/bring-back", body: "{}", expect_status: 200)
    expect(told.size).to eq(before + 1)
    expect(told.find { |what, *| what.include?("quay") }).to eq(["10 links labelled “quay”", "", "act", true])
  end

  it "says nothing of another workspace, and goes out as a table" do
    Workspace.create!(name: "other", title: "Other", host_map: {}, signatures: [], expected_tags: [])
    ask = ->(path) { Rack::MockRequest.new(Api).get(path, "HTTP_HOST" => "127.0.0.1").body }
    expect(JSON.parse(ask.call("/api/workspaces/other/history"))["deeds"]).to eq([])
    expect(ask.call("/api/workspaces/skerry-line/history.csv").lines.first.strip).to end_with("at,by,what,undone")
  end
end
