# frozen_string_literal: true

require "date"
require "json"

# A week of the ticket shop's access log, made from the plan of the demo's traffic: what its streams say of
# visits, and the programs that ask beside them. The same plan always gives the same log.
class DemoLog
  AGENTS = ["Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/120.0.0.0 Safari/537.36",
    "Mozilla/5.0 (Linux; Android 10; K) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/120.0.0.0 Mobile Safari/537.36"].freeze
  ROBOT = "Harvestbot/2.1 (bot; +http://harvest.example/bot)"
  # Robots ask so often each day.
  ASKED = 40

  # @param path [String] of the plan
  def initialize(path)
    @plan = JSON.parse(File.read(path)).fetch("log")
    @chance = Random.new(11)
  end

  # @return [String] Combined Log Format
  def text = (visits + robots).sort_by { |at, line| [at, line] }.map(&:last).join

  private

  def days = (Date.iso8601(@plan["from"])..Date.iso8601(@plan["to"]))

  def visits
    days.flat_map do |day|
      @plan["streams"].flat_map { |stream| Array.new(stream["a_day"]) { visit(day, stream) }.flatten(1) }
    end
  end

  # A visitor opens one page after another, a minute or two between them.
  def visit(day, stream)
    who = visitor
    agent = AGENTS.sample(random: @chance)
    at = midnight(day) + @chance.rand(7 * 3600..21 * 3600)
    referrer = stream["referrer"]
    stream["pages"].map do |page|
      line = entry(at, who, page, referrer, agent)
      referrer = "http://#{@plan["host"]}#{page[/\A[^?]*/]}"
      at += @chance.rand(30..120)
      line
    end
  end

  def midnight(day) = Time.utc(day.year, day.month, day.day)

  def robots
    days.flat_map do |day|
      Array.new(ASKED) { entry(midnight(day) + @chance.rand(86_400), "192.0.2.9", "/", "", ROBOT) }
    end
  end

  # Documentation's own addresses (RFC 3849).
  def visitor = "2001:db8:#{@chance.rand(65_536).to_s(16)}::#{@chance.rand(65_536).to_s(16)}"

  def entry(at, who, page, referrer, agent)
    [
      at,
      "#{who} - - [#{at.strftime("%d/%b/%Y:%H:%M:%S +0000")}] \"GET #{page} HTTP/1.1\" 200 5120 \"#{referrer.empty? ? "-" : referrer}\" \"#{agent}\"\n"
    ]
  end
end
