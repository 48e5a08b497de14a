# frozen_string_literal: true

require_relative "../app_helper"
require "zlib"
require_relative "../../app/cli/command_line"

# An access log that a server writes, lays aside and begins anew, as it is found by the command line and the
# worker.
RSpec.describe FollowedLog, :empty do
  agent = "Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/120.0.0.0 Safari/537.36"

  let(:folder) { Dir.mktmpdir }
  let(:path) { File.join(folder, "access.log") }

  before do
    DemoFixture.clear
    @workspace = Founding.call(title: "Skerry Line", own_hosts: ["www.skerryline.example"])
    @log = FollowedLog.create!(workspace: @workspace, path: path, host: "www.skerryline.example", source: "server")
  end

  after { FileUtils.rm_rf(folder) }

  # @param said [String] day and time, visitor, page
  define_method(:line) do |said|
    at, visitor, page = said.split
    "10.0.0.#{visitor} - - [#{Time.iso8601("2026-11-#{at}:00Z").strftime("%d/%b/%Y:%H:%M:%S +0000")}] \"GET #{page} HTTP/1.1\" 200 9 \"-\" \"#{agent}\"\n"
  end

  def write(*lines, to: path, rest: "") = File.write(to, lines.map { |one| line(one) }.join + rest, mode: "a")

  # @return [Array<Array>] day, landing page and sessions
  def read
    @log.read
    @workspace.traffic_rows.joins(:combination).order(:date, "combinations.landing")
      .pluck(:date, "combinations.landing", :sessions)
      .map { |date, *rest| [date.day, *rest] }
  end

  it "reads it as it grows, over midnight, and from one file to the next, each session once" do
    expect([@log.tap(&:read).problem, @log.day]).to match([/access.log cannot be read: No such file/, nil])
    write("20T22:00 1 /a", "20T23:50 2 /b", rest: line("20T23:59 9 /half").chop)
    expect(read).to eq([[20, "/a", 1], [20, "/b", 1]])
    write(rest: "\n")
    write("21T00:10 2 /c", "21T00:15 3 /d")
    expect(read).to eq([[20, "/a", 1], [20, "/b", 1], [20, "/half", 1], [21, "/d", 1]])
    File.rename(path, "#{path}.1")
    write("21T00:20 3 /e", "21T09:00 4 /f")
    expect(read).to eq([[20, "/a", 1], [20, "/b", 1], [20, "/half", 1], [21, "/d", 1], [21, "/f", 1]])
    Zlib::GzipWriter.open("#{path}.1.gz") { |gz| gz.write(File.read("#{path}.1")) }
    File.delete("#{path}.1")
    write("21T10:00 5 /g")
    expect(read.last(3)).to eq([[21, "/d", 1], [21, "/f", 1], [21, "/g", 1]])
    expect([@workspace.imports.pluck(:filename), ReplacedRow.count, @log.problem]).to eq([["access.log of 2026-11-20", "access.log of 2026-11-21"], 0, nil])
    before = @workspace.imports.pluck(:id)
    expect([read.size, @workspace.imports.pluck(:id)]).to eq([6, before])
  end

  it "finds a day in a log of any length, past lines that nobody can read" do
    noise = "\x00\xFFgarbage\n".b
    File.open(path, "wb") do |file|
      6_000.times do |number|
        file << line("#{format("%02d", 1 + number / 300)}T#{format("%02d:%02d", number % 300 / 13, number % 60)} #{number % 200} /p#{number}") << ((number % 40 == 7) ? noise : "")
      end
    end
    tail = StringIO.new
    Orvant::Traffic::LogEnd.new(path).write(Time.utc(2026, 11, 18), tail)
    found = tail.string.lines.filter_map { |one| Orvant::Traffic::LogLine.read(one.scrub) }
    expect(found.map { |one| one.time.day }.uniq.last(3)).to eq([18, 19, 20])
    expect([found.count { |one| one.time.day >= 18 }, tail.string.bytesize]).to match([900, be < File.size(path) / 4])
  end

  it "is begun and ended by whoever sits at the machine" do
    write("20T22:00 1 /a")
    FollowedLog.delete_all
    expect { CommandLine.start(["follow-log", path, "--workspace", @workspace.name, "--host", "www.skerryline.example"]) }.to output(/is read every 5 minutes/).to_stdout
    FollowedLog.read_due
    expect([FollowedLog.sole.import.added, FollowedLog.sole.due?]).to eq([1, false])
    expect { CommandLine.start(["follow-log", path, "--workspace", @workspace.name, "--end"]) }.to output(/no more/).to_stdout
    expect { CommandLine.start(["follow-log", "#{path}.none", "--workspace", @workspace.name]) }.to raise_error(SystemExit).and output(/cannot be read/).to_stderr
    expect([FollowedLog.count, @workspace.traffic_rows.count]).to eq([0, 1])
  end
end
