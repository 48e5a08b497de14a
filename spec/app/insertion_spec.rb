# frozen_string_literal: true

require_relative "../app_helper"

# What is written out for many rows at once is what the database gets of one: Active Record's own way is the
# judge, and what the driver hands back.
RSpec.describe Insertion, :empty do
  texts = [
    "", "plain", "it's", "''", "\\", "\\'", "a\"b", "?", ":1", "%s", "$1", "1", "line\nline\r\n\ttab", "Grüße · ñ · 漢字 · 👩‍🚀",
    "\u2028", "'); DROP TABLE links; --", "x" * 5_000, " edges ", "<script>&amp;</script>", "NULL", "0", "null"
  ]
  # column of the sightings => what may stand in it
  {
    "place" => texts,
    "key" => [nil, *texts],
    "spend" => [nil, 0, -1, 2**31 - 1],
    "since" => [nil, Date.new(2026, 11, 2), Date.new(1900, 1, 1), Date.new(2300, 12, 31)],
    "facts" => [nil, {}, {"a" => "it's", "b" => ["\"", nil, 1, 2.5, true], "c" => {"d" => "<é\u2028>"}}, {"e" => texts}],
    "updated_at" => [Time.utc(2026, 11, 2, 3, 4, 5, 678_901), Time.new(2026, 11, 2, 3, 4, 5, "+02:00")]
  }.each do |column, values|
    it "keeps #{column} as Active Record keeps it, whatever stands in it" do
      rows = values.each_with_index.map { |value, number| row("new-#{number}").merge(column.to_sym => value) }
      described_class.new(Sighting, rows).call
      values.each_with_index { |value, number| Sighting.create!(row("old-#{number}").merge(column.to_sym => value)) }
      kept = ->(name) { Sighting.where("identity LIKE '#{name}-%'").sort_by { |one| one.identity[/\d+/].to_i }.map { |one| one[column] } }
      expect(kept.call("new")).to eq(kept.call("old"))
      expect(kept.call("new").size).to eq(values.size)
    end
  end

  it "keeps a yes and a no, and figures of every size" do
    findings = [true, false].map { |current| Finding.row(Orvant::Finding.new(code: "param/case", weight: "skews", place: "", parameter: "", message: "it's", evidence: ["a'b"], root: "r", remedy: Orvant::Remedy.new), workspace_id: workspace.id, sweep_id: sweep.id, current: current) }
    described_class.new(Finding, findings).call
    expect(Finding.order(:id).pluck(:current, :message, :place, :evidence)).to eq([true, false].map { |current| [current, "it's", "", ["a'b"]] })
  end

  it "leaves a row that is there as it is, or gives it what is named" do
    described_class.new(Sighting, [row("a").merge(place: "first", owner: "Ann")]).call
    again = [row("a").merge(place: "second", owner: "Ben"), row("b").merge(place: "third", owner: "Cy")]
    described_class.new(Sighting, again, known_by: %i[workspace_id identity]).call
    expect(Sighting.order(:identity).pluck(:place, :owner)).to eq([%w[first Ann], %w[third Cy]])
    described_class.new(Sighting, again, known_by: %i[workspace_id identity], anew: %i[owner]).call
    expect(Sighting.order(:identity).pluck(:place, :owner)).to eq([%w[first Ben], %w[third Cy]])
  end

  it "takes numbers of a column that are known only when it is run, each to its row" do
    rows = %w[a b c].map { |name| row(name).except(:link_id) }
    links = Array.new(3) { |number| Link.create!(workspace: workspace, address: "x", normal_form: "later-#{number}", host: "x").id }.rotate
    insertion = described_class.new(Sighting, rows, known_by: %i[workspace_id identity], anew: %i[link_id], later: :link_id)
    insertion.call(links)
    expect(Sighting.order(:identity).pluck(:link_id)).to eq(links)
    insertion.call(links.reverse)
    expect(Sighting.order(:identity).pluck(:link_id)).to eq(links.reverse)
    expect { insertion.call(["1); DROP TABLE links; --", 1, 1]) }.to raise_error(ArgumentError)
  end

  it "does nothing of nothing, and says what the database refuses" do
    expect(described_class.new(Sighting, []).tap(&:call).count).to eq(0)
    described_class.new(Sighting, [row("a")]).call
    expect { described_class.new(Sighting, [row("a")]).call }.to raise_error(ActiveRecord::RecordNotUnique)
    expect(Sighting.count).to eq(1)
  end

  before { DemoFixture.clear }

  def workspace = @workspace ||= Founding.call(title: "Skerry Line", own_hosts: ["www.skerryline.example"])

  def sweep = Sweep.create!(workspace: workspace, convention_version: workspace.convention_version, scope: {})

  def link = @link ||= Link.create!(workspace: workspace, address: "http://www.skerryline.example/", normal_form: "x", host: "www.skerryline.example")

  def row(identity)
    now = Time.utc(2026, 11, 2)
    {workspace_id: workspace.id, link_id: link.id, identity: identity, kind: "ad", place: "", created_at: now, updated_at: now}
  end
end
