# frozen_string_literal: true

require "tempfile"
require "zlib"

RSpec.describe Orvant::Traffic::Sessions do
  browser = "Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/120.0.0.0 Safari/537.36"
  goals = Orvant::Watching.new("goals" => [{"page" => "/thanks", "events" => []}])

  # @param said [String] `seconds visitor target [status] [referrer]`
  define_method(:line) do |said|
    at, visitor, target, status, referrer = said.split
    at = (Time.utc(2026, 11, 2, 10) + at.to_i).strftime("%d/%b/%Y:%H:%M:%S +0000")
    "10.0.0.#{visitor} - - [#{at}] \"GET #{target} HTTP/1.1\" #{status || 200} 9 \"#{referrer || "-"}\" \"#{browser}\""
  end

  define_method(:rows) do |text, watching = goals, host: "www.skerryline.example"|
    file = Tempfile.new("log")
    file.binmode
    file.write(text)
    file.close
    sessions = described_class.new(demo_convention, goals: watching, host: host)
    sessions.read(file.path)
    found = []
    sessions.each_row { |row| found << row }
    [found, sessions]
  end

  letter = "/day-pass?utm_source=island-letter&utm_medium=email&utm_campaign=june"
  # lines => source, landing, referrer, click, sessions, conversions and pages of each row
  {
    ["0 1 /", "1800 1 /thanks"] => [["", "/", "", "", 1, 1, 2]],
    ["0 1 /", "1801 1 /thanks"] => [["", "/", "", "", 1, 0, 1], ["", "/thanks", "", "", 1, 1, 1]],
    ["0 1 /thanks", "5 1 /thanks", "9 1 /"] => [["", "/thanks", "", "", 1, 1, 3]],
    ["0 1 #{letter}", "60 1 /walks", "120 1 #{letter}"] => [["island-letter", "/day-pass", "", "", 1, 0, 3]],
    ["0 1 #{letter}", "60 1 #{letter.sub("june", "June")}"] => [["island-letter", "/day-pass", "", "", 1, 0, 1], ["island-letter", "/day-pass", "", "", 1, 0, 1]],
    ["0 1 /seals?click_no=1", "60 1 /seals?click_no=2", "61 1 /"] => [["", "/seals", "", "click_no", 2, 0, 3]],
    ["0 1 #{letter} 301", "2 1 /day-pass/"] => [["island-letter", "/day-pass/", "", "", 1, 0, 1]],
    ["0 1 #{letter} 301", "3 1 /day-pass/"] => [["island-letter", "/day-pass", "", "", 1, 0, 2]],
    ["0 1 /a 301 http://www.isleguide.example/x", "1 1 /b 302", "2 1 /c"] => [["", "/c", "www.isleguide.example", "", 1, 0, 1]],
    ["0 1 #{letter} 404", "1700 1 /"] => [["island-letter", "/", "", "", 1, 0, 1]],
    ["0 1 #{letter} 404", "1801 1 /"] => [["", "/", "", "", 1, 0, 1]],
    ["0 1 / 200 http://www.isleguide.example/x", "9 1 /walks 200 http://www.skerryline.example/"] => [["", "/", "www.isleguide.example", "", 1, 0, 2]],
    ["0 1 / 200 http://shop.skerryline.example/", "9 1 /walks"] => [["", "/", "shop.skerryline.example", "", 1, 0, 2]],
    ["0 1 / 200 http://www.skerryline.example/", "9 1 /walks"] => [["", "/", "", "", 1, 0, 2]],
    ["0 1 /app.js", "1 1 /img/a.PNG", "2 1 /api/price", "3 1 /robots.txt"] => [],
    ["0 1 / 500", "1 1 /walks 304"] => [["", "/walks", "", "", 1, 0, 1]],
    ["0 1 /", "0 2 /", "1 1 /walks"] => [["", "/", "", "", 2, 0, 3]],
    (0...40).map { |number| "#{number / 4} 1 /p#{number}" } => []
  }.each do |lines, expected|
    it "makes #{expected.size} rows of #{lines.first(4).join(" · ")[0, 100]}" do
      found, = rows(lines.map { |said| line(said) }.join("\n"))
      expect(found.map { |row| [row.source, row.landing, row.referrer, row.click, row.sessions, row.conversions, row.pages] }).to match_array(expected)
    end
  end

  # Of which log a visit's beginning would be told is known where hosts are.
  {["-", ""] => "", ["-", "www.skerryline.example"] => "shop.skerryline.example", ["shop.skerryline.example", ""] => ""}.each do |(also, host), expected|
    it "takes a visit from an own host for #{expected.empty? ? "one that goes on" : "the second half of one"} in a log of #{[also, host].inspect}" do
      said = line("0 1 /walks 200 http://shop.skerryline.example/cart")
      said = ["www.skerryline.example #{said}", "#{also} #{line("5 2 /cart")}"].join("\n") unless also == "-"
      found, = rows(said, host: host)
      expect(found.find { |row| row.landing == "/walks" }.referrer).to eq(expected)
    end
  end

  it "says how far a visit went, and which event its conversions are of, each of several once" do
    watching = Orvant::Watching.new("goals" => [{"page" => "/thanks", "events" => []}, {"page" => "/called", "events" => [{"tag" => "t", "event" => "call"}]}], "steps" => [{"name" => "form", "page" => "/form"}, {"name" => "thanks", "page" => "/thanks"}])
    said = ["0 1 /walks", "0 2 /walks", "1 2 /seals", "0 3 /form", "0 4 /form", "1 4 /thanks", "2 4 /called", "3 4 /walks"]
    found, = rows(said.map { |one| line(one) }.join("\n"), watching)
    expect(found.map { |row| [row.reached, row.event, row.sessions, row.conversions] }).to contain_exactly(["landing", "", 1, 0], ["a second page", "", 1, 0], ["form", "", 1, 0], ["thanks", "/thanks", 1, 1], ["thanks", "call", 0, 1])
  end

  it "makes the same of a log in any order, packed, in JSON, and in parts that do not fit into memory" do
    chance = Random.new(11)
    said = Array.new(400) { |number| "#{number * 40} #{chance.rand(12)} #{["/", letter, "/walks", "/thanks"].sample(random: chance)}" }
    lines = said.map { |one| line(one) }
    expected = rows(lines.join("\n")).first.map(&:to_a)
    expect(expected.sum { |row| row[1] }).to be > 20
    stub_const("Orvant::Traffic::SortedLog::PART", 50)
    json = said.map { |one| one.split.then { |at, visitor, target| JSON.generate("time" => (Time.utc(2026, 11, 2, 10) + at.to_i).iso8601, "ip" => "10.0.0.#{visitor}", "method" => "GET", "uri" => target, "status" => 200, "user_agent" => browser) } }
    [lines.shuffle(random: chance).join("\n"), Zlib.gzip(lines.join("\n")), json.join("\n")].each { |text| expect(rows(text).first.map(&:to_a)).to match_array(expected) }
  end

  it "sets apart what it cannot read, and bots, and goes on" do
    text = [line("0 1 /"), "\x00\xFF\xFEgarbage", "x" * 1_100_000, line("9 1 /walks").sub("2026", "1900"), line("5 2 /").sub(browser, "Examplebot/2.1 (crawler; +http://bot.example/)"), line("6 3 /").sub(browser, "-"), "", line("60 1 /walks")].join("\n")
    found, sessions = rows(text)
    expect([found.sum(&:pages), sessions.counts.bots, sessions.counts.unread]).to eq([2, 2, 4])
    expect(sessions.unread.first).to match(/line 2: this is no line of an access log/)
  end

  it "keeps nobody's address" do
    _, sessions = rows(line("0 77 /"))
    expect(Marshal.dump(sessions.instance_variable_get(:@log).instance_variable_get(:@part))).not_to include("10.0.0.77")
  end
end
