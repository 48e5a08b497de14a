# frozen_string_literal: true

require_relative "../app_helper"

RSpec.describe "bin/orvant, on rules and new links" do
  convention = File.join(ROOT, "demo/data/convention.json")

  include CommandRuns

  def file(text, name) = File.join(SPEC_VAR, name).tap { |path| File.binwrite(path, text) }

  it "checks links one by one and all together, and shows no personal data" do
    links =
      %w[utm_campaign=june-walks utm_campaign=junewalks utm_campaign=june&guest=kari@post.example].map do |rest|
        "http://www.skerryline.example/day-pass?utm_source=island-letter&utm_medium=email&#{rest},message\n"
      end
    path = file("address,kind\n#{links.join}", "check.csv")
    output, _, status = orvant("check", path, "--convention", convention, "--format", "json")
    lines = output.lines.map { |line| JSON.parse(line) }
    expect(lines.map { |line| line["findings"].map { |one| one["code"] } }).to eq(
      [[], [], ["param/personal-data"], ["param/split-spelling"]]
    )
    expect([status, output]).to match([1, include("guest=•••").and(satisfy { |text| !text.include?("kari") })])
    text, = orvant("check", path, "--convention", convention)
    expect(text).to include("over all links").and include("guest=•••")
  end

  it "learns a convention that it then takes as its own" do
    links =
      %w[island-letter Island-Letter island-letter lanternfind lanternfind].map do |source|
        "http://www.skerryline.example/?utm_source=#{source}&utm_medium=#{source.start_with?("l") ? "paid-search" : "email"}\n"
      end
    output, _, status = orvant("learn", file("address\n#{links.join}", "learn.csv"), "--format", "json")
    expect(status).to eq(0)
    expect(JSON.parse(output)["roles"].first["vocabulary"]["values"]).to eq(
      [{"value" => "island-letter", "aliases" => ["Island-Letter"]}, {"value" => "lanternfind"}]
    )
    answer, _, status = orvant("convention", "validate", file(output, "learned.json"))
    expect([answer, status]).to match([/It can be used/, 0])
    expect(orvant("learn", file("address\nhttp://www.skerryline.example/\n", "plain.csv"))).to match(
      ["", /None of the links carries a parameter/, 2]
    )
  end

  it "builds finished links, holds rejected ones back with the reason, and lets those leave for which it is said why" do
    sheet =
      "landing,source,medium,campaign,exception\nhttp://www.skerryline.example/day-pass#top,island-letter,email,june,\nhttp://www.skerryline.example/,island-leter,email,june,\nhttp://www.skerryline.example/,island-letter,email,June,printed\nnonsense,island-letter,email,june,because\n"
    output, errors, status = orvant("build", file(sheet, "sheet.csv"), "--convention", convention, "--format", "text")
    expect(output.lines.map(&:chomp)).to eq(
      %w[
        http://www.skerryline.example/day-pass?utm_source=island-letter&utm_medium=email&utm_campaign=june#top
        http://www.skerryline.example/?utm_source=island-letter&utm_medium=email&utm_campaign=June
      ]
    )
    expect(errors.lines).to match(
      [%r{\Aline 3 stays behind: param/near-miss}, /\Aline 5 stays behind: The address does not begin/]
    )
    expect(status).to eq(1)
    expect(orvant("build", file("a,b\n", "none.csv"), "--convention", convention)).to match(["", /\S/, 2])
  end

  it "names path and reason of each fault of a convention" do
    document = JSON.parse(File.read(convention))
    document["roles"][0]["vocabulary"]["values"][0]["aliases"] = ["tidepost"]
    document["pairs"][0]["source"] = "nobody"
    _, errors, status = orvant("convention", "validate", file(JSON.generate(document), "faulty.json"))
    expect(errors.lines.map { |line| line[/\A\S+:/] }).to eq(%w[/roles/0/vocabulary/values/0/aliases: /pairs/0/source:])
    expect(status).to eq(1)
    expect(orvant("convention", "validate", file("{", "broken.json"))).to match(["", /no valid JSON/, 1])
    expect(orvant("convention", "validate", "/nowhere.json").last).to eq(2)
  end
end
