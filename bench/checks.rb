# frozen_string_literal: true

require "uri"
require_relative "scratch"

# How fast links are judged: beside what the standard library takes to read the same addresses, in turns so
# that a slow moment of the machine meets both; how the checks over many links grow with them; and what it
# takes to say what a change of rules does to them.
class ChecksBench
  TURNS = 20
  SOURCES = [
    %w[island-letter email message],
    %w[lanternfind paid-search ad],
    %w[tidepost paid-social ad],
    %w[poster print print],
    %w[isleguide partner page]
  ].freeze
  THEMES = %w[autumn-day-pass walks-2026 winter-timetable seal-season groups-winter island-breaks harbour-lights gift-pass].freeze

  # @param links [Integer]
  def initialize(links = 100_000)
    @links = links
    @random = Random.new(2026)
  end

  def call
    judging
    growing
    changing
  end

  private

  def convention = Orvant::Convention.read(File.read(File.join(Scratch::ROOT, "demo/data/convention.json")))

  # One link in twenty has a fault, as at an advertiser that works at it.
  def links
    Array.new(@links) do |number|
      source, medium, kind = SOURCES[@random.rand(SOURCES.size)]
      text = "https://www.skerryline.example/day-pass/#{number}?utm_source=#{source}&utm_medium=#{medium}&utm_campaign=#{THEMES[@random.rand(THEMES.size)]}-#{@random.rand(40)}&utm_content=button-#{@random.rand(2_000)}&ref=#{number}"
      [(number % 20).zero? ? faulty(text, number) : text, kind]
    end
  end

  def faulty(text, number)
    case number / 20 % 4
    when 0 then text.sub("utm_medium=", "utm_medium=E-")
    when 1 then text.sub("button-", "Button%20")
    when 2 then text.sub("utm_source", "utm_soruce")
    else text.sub("utm_campaign=", "utm_campaign=Late_")
    end
  end

  def judging
    rules = convention
    library = ours = 0.0
    found = 0
    links.each_slice([@links / TURNS, 1].max) do |some|
      library += Scratch.seconds { some.each { |text, _| URI.decode_www_form(URI.parse(text).query) } }.first
      ours += Scratch.seconds {
        some.each do |text, kind|
          found += Orvant::Checks::Param.judge(Orvant::Address.parse(text), rules, kind: kind).size
        end
      }.first
    end
    puts format("%d links, %d findings, one core", @links, found)
    puts format("  URI.parse and decode_www_form  %8.0f links/s", @links / library)
    puts format("  Orvant                         %8.0f links/s   ratio %.2f", @links / ours, library / ours)
  end

  def growing
    few, many = [@links / 10, @links].map { |count| set_seconds(count) }
    puts format(
      "checks over all links: %d in %.2f s, %d in %.2f s, %.1f times as long",
      @links / 10,
      few,
      @links,
      many,
      many / few
    )
  end

  # Of the values of a role, and of which links are judged at all.
  def changing
    preview = Orvant::Checks::Param::Preview.new(entries(@links), convention)
    document = JSON.parse(File.read(File.join(Scratch::ROOT, "demo/data/convention.json")))
    shorter = document["roles"].map { |role| role.merge("longest" => 12) }
    [{"roles" => shorter}, {"judged_hosts" => ["*.skerryline.example"]}].each do |change|
      changed = Orvant::Convention.new(document.merge(change))
      seconds, changes = Scratch.seconds { preview.changes(changed) }
      puts format("a change of %s: %d links change, in %.2f s", *change.keys, changes.size, seconds)
    end
  end

  def entries(count)
    links.first(count).each_with_index.map do |(text, kind), id|
      Orvant::Checks::Param::Entry.new(
        address: Orvant::Address.parse(text),
        kind: kind,
        sightings: [],
        id: id
      )
    end
  end

  def set_seconds(count)
    entries = entries(count)
    rules = convention
    GC.start
    Scratch.seconds { Orvant::Checks::Param.judge_all(entries, rules) }.first
  end
end
