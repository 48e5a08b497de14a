# frozen_string_literal: true

require_relative "../app_helper"

# What shows over many pages and rehearsals only, in a sweep of everything.
RSpec.describe InventoryPhase, :api, :swept do
  let(:workspace) { Workspace.find_by!(name: "skerry-line") }

  def found
    workspace.findings.current.where("code IN ('tag/uneven', 'tag/counted-unseen')").order(:code)
      .map { |one| [one.code, one.message] }
  end

  it "compares variants of a page and the events that are counted, and takes back what is mended" do
    sweep = workspace.sweeps.finished_whole.last
    with, without = sweep.page_visits.partition { |one| one.visit["tags"].include?("beaconbay") }
      .map { |visits| visits.first.page[/\A[^?#]+/] }
    counted = %w[lead Lead].map { |event| {"tag" => "gullwatch", "event" => event} }
    WorkspaceChange.new(workspace).call("watching" => {"variants" => [[with, without]], "counted_events" => counted})
    described_class.new(sweep.reload).call
    expect(found).to match([["tag/counted-unseen", a_string_including("“Lead” of Gullwatch", "“lead” was heard")], ["tag/uneven", a_string_including("Beacon Bay is on #{with}, but not on #{without}")]])
    expect(call(:get, "/findings/over-all")["findings"].map { |one| one["code"] }).to include("tag/uneven")

    WorkspaceChange.new(workspace.reload)
      .call("watching" => {"variants" => [[with, without]], "counted_events" => counted.first(1)})
    described_class.new(Sweep.find(sweep.id)).call
    expect(found.map(&:first)).to eq(["tag/uneven"])
  end
end
