# frozen_string_literal: true

require_relative "scratch"

# What it takes to bring fixes and traffic in step: after a sweep of many links that are wrong, and after one
# link more; and how long the longest transaction of each keeps others waiting.
class ExplainingBench
  # @param links [Integer]
  # @param rows [Integer] of sessions
  def initialize(links = 8_000, rows = 100_000)
    @links = links
    @rows = rows
  end

  # Prints seconds, the number of transactions and the longest of them in milliseconds.
  def call
    Scratch.application
    @workspace = Scratch.workspace(Scratch.world)
    step("#{@links} links imported") do
      links((0...@links).map { |number| "http://www.skerryline.example/passes?#{query(number)},message,Letter #{number % 300} · link #{number}" })
    end
    step("#{@rows} session rows imported") { sessions }
    sweep = Sweep.begin!(@workspace, scope: {"links" => "all", "pages" => [], "rehearsals" => []})
    step("swept") { TrailPhase.new(sweep).call }
    step("explained, all of it (#{@workspace.findings.current.count} findings)") do
      Explaining.new(@workspace).call
    end
    step("one link imported, as a request does") do
      links(["http://www.skerryline.example/passes?utm_source=one,message,One"])
    end
    step("explained again") { Explaining.new(@workspace).call }
    puts "  #{@workspace.fixes.count} fixes, #{@workspace.traffic_rows.wrong.count} rows with a cause"
  end

  private

  def query(number)
    "utm_source=island-letter&utm_medium=#{%w[email Email e-mail][number % 3]}&utm_campaign=#{(number % 4 == 0) ? "Walks" : "walks"}-#{number % 1_500}"
  end

  def links(lines)
    LinkImporting.new(@workspace, (["address,kind,found"] + lines).join("\n"), filename: "bench.csv").call
  end

  def sessions
    lines = (0...@rows).map do |number|
      "2026-10-#{format("%02d", 1 + number % 28)},island-letter,#{%w[email Email e-mail (none)][number % 4]},walks-#{number % 1_500},/passes-#{number},#{1 + number % 9}"
    end
    TrafficImporting.new(
      @workspace,
      (["date,source,medium,campaign,landing page,sessions"] + lines).join("\n"),
      filename: "bench.csv"
    ).call
  end

  def step(name)
    spans = []
    note = ->(_, began, ended, _, facts) { spans << ((ended - began) * 1000) if facts[:outcome] }
    took, = ActiveSupport::Notifications.subscribed(note, "transaction.active_record") { Scratch.seconds { yield } }
    puts format(
      "  %-46s %7.1f s, %6d transactions, the longest %6.0f ms",
      name,
      took,
      spans.size,
      spans.max.to_f
    )
  end
end
