# frozen_string_literal: true

require_relative "../app_helper"

# A person records on a page that is theirs alone, whichever process answers; it ends by itself.
RSpec.describe RecordersResource, :demo, :api do
  landing = "http://www.skerryline.example/group-bookings/?utm_source=island-letter&utm_medium=email&utm_campaign=groups-winter"

  def act(id, **wish) = call(:post, "/recorders/#{id}/acts", body: JSON.generate(wish), expect_status: 200, CONTENT_TYPE: "application/json")

  # Spoken to over its socket, as by another process: the first server of a process would be asked directly.
  before { @first = DRb::DRbServer.new("drbunix:#{RecorderDesk.folder}/first.server") }

  after { @first.stop_service }

  it "does what is asked, shows the page, and ends" do
    id = call(:post, "/recorders")["id"]
    opened = act(id, step: {"open" => landing})
    expect(opened["taken"].map { |one| [one["step"]["open"], one["heard"].map { |signal| signal["event"] }] }).to match([[landing, match_array(%w[view seen])]])
    expect(opened["useful"].map { |one| one["kind"] }).to include("click")
    link = opened["useful"].find { |one| one["kind"] == "click" }
    expect(act(id, step: {"click" => link["target"]})["taken"].size).to eq(2)
    expect(call(:get, "/recorders/#{id}/view.png").b).to start_with("\x89PNG".b)
    expect(act(id, scroll: 300).values_at("problem", "asks")).to eq([nil, nil])
    expect(act(id, at: {x: 4_000, y: 4_000})["problem"]).to eq("Nothing is there.")
    expect(act(id, replay: [{"open" => landing}])["taken"].size).to eq(1)
    expect(call(:get, "/recorders/#{id}")["address"]).to eq(landing)

    call(:delete, "/recorders/#{id}")
    expect(call(:get, "/recorders/#{id}", expect_status: 404)["detail"]).to include("Your steps are kept")
    expect(RecorderDesk.standing).to eq([])
  end

  it "opens links of the inventory by their number, and says of a step that it is none" do
    id = call(:post, "/recorders")["id"]
    link = Link.find_by!(address: "http://skl.example/d")
    taken = act(id, step: {"open" => {"link" => link.id}})["taken"].first
    expect(taken.values_at("step", "page")).to match([{"open" => {"link" => link.id}}, /skerryline\.example/])
    wrong = call(:post, "/recorders/#{id}/acts", body: JSON.generate(step: {"fly" => true}), expect_status: 422, CONTENT_TYPE: "application/json")
    expect(wrong["detail"]).to include("steps")
  end

  it "is one person's, once: another person does not find it, and a second recording ends the first" do
    workspace = Workspace.find_by!(name: "skerry-line")
    ann, ben = %w[ann ben].map { |name| Caller.new(person: Person.new(id: (name == "ann") ? 1 : 2)) }
    first = RecorderDesk.new(workspace, ann).begin
    expect { RecorderDesk.new(workspace, ben).find(first) }.to raise_error(ActiveRecord::RecordNotFound)
    expect { RecorderDesk.new(Founding.call(title: "Other", own_hosts: ["a.test"]), ann).find(first) }.to raise_error(ActiveRecord::RecordNotFound)
    second = RecorderDesk.new(workspace, ann).begin
    expect(RecorderDesk.standing).to eq([second])
  end

  it "ends by itself, and so does its browser" do
    stub_const("RecordingSession::IDLE", 0.01)
    ended = Concurrent::Event.new
    session = RecordingSession.new(Workspace.find_by!(name: "skerry-line"), "alone") { ended.set }
    expect(ended.wait(20)).to be(true)
    expect(session.instance_variable_get(:@browser).pid).to be_nil
  end
end
