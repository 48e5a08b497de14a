# frozen_string_literal: true

require_relative "../app_helper"

# Markup is read everywhere, and what the browser did not open is told.
RSpec.describe UnopenedPages, :empty do
  before do
    DemoFixture.clear
    @workspace = Founding.call(title: "Here", own_hosts: ["a.test"])
    @workspace.update!(expected_tags: [{"tag" => "gull"}, {"tag" => "tide", "pages" => ["/shop/*"]}])
    @convention = @workspace.convention
  end

  def crawl(pages)
    import = @workspace.imports.create!(kind: "site", source: "http://a.test/", filename: "", options: {}, state: "done", rejected: [], notes: [])
    pages.each do |path, facts|
      document = {"address" => "http://a.test#{path}", "status" => 200, "reason" => nil, "title" => "T", "tags" => []}.merge(facts)
      SitePage.create!(workspace: @workspace, import: import, page: "a.test#{path}", document: document)
    end
  end

  def sweep
    @sweep ||= Sweep.create!(workspace: @workspace, convention_version: @workspace.convention_version, scope: {"links" => "all", "pages" => "landing"}, state: "running", whole: true)
  end

  def opened(path, tags:, heard:)
    PageVisit.create!(sweep: sweep, workspace: @workspace, page: "a.test#{path}", visit: {"tags" => tags, "signals" => heard.map { |tag| {"tag" => tag} }})
  end

  def pages
    described_class.new(@workspace).document["pages"].map { |one| one.values_at("page", "tags", "lacking") }
  end

  it "tells which expected tags do not stand in the markup of pages that were not opened, but for those that a loader brings" do
    crawl({"/old" => {}})
    @workspace.imports.create!(kind: "site", source: "http://a.test/", filename: "", options: {}, state: "failed", rejected: [], notes: [])
    crawl({"/" => {"tags" => %w[gull]}, "/shop/a" => {"tags" => %w[gull tide]}, "/shop/b" => {"tags" => []}, "/gone" => {"status" => 404}, "/broken" => {"status" => nil, "reason" => "no answer"}, "/seen" => {}})
    opened("/seen?page=2", tags: %w[gull], heard: %w[gull])
    expect(pages).to eq([["a.test/", %w[gull], []], ["a.test/shop/a", %w[gull tide], []], ["a.test/shop/b", [], %w[gull tide]]])
    expect(described_class.new(@workspace).document.slice("read", "opened", "brought")).to eq("read" => 4, "opened" => 1, "brought" => [])
    opened("/other", tags: [], heard: %w[tide tide])
    expect(pages.last).to eq(["a.test/shop/b", [], %w[gull]])
  end

  it "opens one page of each group on which nothing lands, in sweeps of everything only" do
    crawl({"/walks/a" => {}, "/walks/b" => {}, "/walks/c" => {}, "/shop/a" => {}, "/shop/b" => {}, "/lost/x" => {"status" => 404}})
    LinkImporting.new(@workspace, "address\nhttp://a.test/shop/a\n", filename: "a.csv").call
    LinkTrail.create!(sweep: sweep, link: @workspace.links.first, visitor: "desktop", outcome: "landed", status: 200, final_address: "http://a.test/shop/a?utm_source=x", landing_page: "a.test/shop/a", engine: "http", hops: [], shape: "s", look: "none")
    chosen = -> { LandingPages.new(sweep, @convention).chosen.map { |one| [one.page, one.others] } }
    expect(chosen.call).to eq([["a.test/shop/a", 0], ["a.test/walks/a", 2]])
    sweep.update!(whole: false)
    expect(chosen.call).to eq([["a.test/shop/a", 0]])
  end
end
