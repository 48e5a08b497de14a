# frozen_string_literal: true

require_relative "../app_helper"

RSpec.describe Importing, :demo do
  let(:workspace) { Workspace.find_by!(name: "skerry-line") }

  def import(text, kind: "links") = described_class.of(kind).new(workspace, text, filename: "list.csv").call

  def preview(text) = described_class.of("links").new(workspace, text, filename: "list.csv").preview

  it "adds nothing when the same file comes twice" do
    file = File.binread(File.join(ROOT, "demo/data/links.csv"))
    expect { import(file) }.not_to change { [Link.count, Sighting.count, Link.sum(:spend)] }
    expect(workspace.imports.last).to have_attributes(added: 0, already: 86)
  end

  it "keeps one link with all its sightings, shown as first seen" do
    import(
      "address,kind,found,owner,spend\nHTTP://WWW.Skerryline.example:80/new,ad,One,A,10\nhttp://www.skerryline.example/new,post,Two,B,5\n"
    )
    link = workspace.links.find_by!(normal_form: "http://www.skerryline.example/new")
    expect(link).to have_attributes(
      address: "HTTP://WWW.Skerryline.example:80/new",
      kind: "ad",
      place: "One",
      owner: "A",
      spend: 1_500
    )
    expect(link.sightings.pluck(:place)).to eq(%w[One Two])
  end

  it "keeps the good rows of a file with bad ones, and the bad ones with their reasons" do
    import =
      import(
        "address,kind,found\nhttp://www.skerryline.example/kept,ad,x\nnot an address,ad,y\nhttp://www.skerryline.example/banner,banner,z\n"
      )
    expect(import).to have_attributes(added: 1, rejected_count: 2)
    expect(import.rejected.map { |row| row.values_at("line", "cells") }).to eq(
      [[3, ["not an address", "ad", "y"]], [4, %w[http://www.skerryline.example/banner banner z]]]
    )
  end

  it "previews without keeping anything" do
    expect { preview("address\nhttp://www.skerryline.example/previewed\nhttp://skl.example/d\n") }.not_to change(
      Link,
      :count
    )
    expect(
      preview(
        "address,kind,found\nhttp://www.skerryline.example/previewed,ad,x\nhttp://skl.example/d,print,\"Poster, Harbour Street · run 4\"\n"
      )
    ).to include("new" => 1, "already" => 1, "rows" => 2)
  end

  it "takes a file back, and lets it come again" do
    text = "address,kind,found\nhttp://www.skerryline.example/once,ad,x\nhttp://skl.example/d,post,also here\n"
    first = import(text)
    ImportRemoval.new(first).call
    expect(workspace.links.live.where(address: "http://www.skerryline.example/once")).to be_empty
    expect(workspace.links.live.find_by!(address: "http://skl.example/d").sightings.pluck(:place)).to include(
      "Poster, Harbour Street · run 4"
    )

    import(text)
    expect(workspace.links.live.where(address: "http://www.skerryline.example/once").count).to eq(1)
  end

  # which of two files that share a link is taken back first => places that are left after one, and after both
  {[0, 1] => [%w[Two Three], []], [1, 0] => [%w[One Two], []]}.each do |order, (left, none)|
    it "keeps what the other file holds too when file #{order.first + 1} of two is taken back" do
      site = "http://www.skerryline.example/shared"
      files =
        ["#{site},ad,One\n#{site},ad,Two\n", "#{site},ad,Two\n#{site},ad,Three\n"].map do |rows|
          import("address,kind,found\n#{rows}")
        end
      places = -> {
        workspace.links.live.where(address: site)
          .flat_map { |link| link.sightings.order(:id).pluck(:place) }
      }
      expect(places.call).to eq(%w[One Two Three])
      ImportRemoval.new(files[order.first]).call
      expect(places.call).to match_array(left)
      ImportRemoval.new(files[order.last]).call
      expect(places.call).to eq(none)
    end
  end

  it "reads the same session rows once, and sums them by what a report shows" do
    rows =
      "date,source,medium,landing page,sessions\n2026-11-23,island-letter,email,/day-pass,3\n2026-11-23,island-letter,email,/day-pass,4\n"
    expect { 2.times { import(rows, kind: "traffic") } }.to change {
      workspace.traffic_rows.where(date: "2026-11-23").sum(:sessions)
    }.from(0).to(7)
  end

  it "keeps hostile text as text" do
    import(
      "address,kind,found,owner\n\"http://www.skerryline.example/?x=<script>alert(1)</script>\",ad,<img src=x onerror=alert(1)>,=cmd()\n"
    )
    expect(workspace.links.find_by!(owner: "=cmd()").place).to eq("<img src=x onerror=alert(1)>")
  end

  it "takes new figures of a day that is exported again, says so, and gives the old ones back" do
    table = ->(sessions) { "date,sessions,source,medium,revenue\n2026-11-02,#{sessions},again,email,12.50\n2026-11-03,5,again,email,1\n" }
    import = ->(sessions) { TrafficImporting.new(workspace, table.call(sessions), filename: "again.csv").call }
    figures = -> { workspace.traffic_rows.told.where(combinations: {source: "again"}).order(:date).pluck(:sessions) }
    import.call(10)
    renewed = import.call(14)
    expect([figures.call, renewed.added, renewed.notes.last]).to eq([[14, 5], 0, "1 row was there with other figures: the new ones hold."])
    ImportRemoval.new(renewed).call
    expect(figures.call).to eq([10, 5])
  end
end
