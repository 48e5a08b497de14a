# frozen_string_literal: true

require_relative "scratch"

# Tags read from the markup of pages: how many pages a second one core reads.
class MarkupBench
  SIGNATURE = {"tag" => "gull",
               "name" => "Gull",
               "purpose" => "analytics",
               "functions" => ["gw"],
               "markup" => [
                 {"host" => "cdn.gull.example", "path" => "/gw.js", "account" => "id"},
                 {"inline" => "gw('start', '*')"}
  ],
               "wire" => [{"host" => "in.gull.example"}],
               "fields" => {"event" => "ev"},
               "events" => {"page_view" => ["view"], "conversion" => ["lead"]}}.freeze

  # @param pages [Integer]
  def initialize(pages = 2_000)
    @pages = Array.new(pages) { |number| page(number) }
  end

  # Prints pages a second.
  def call
    signature = Orvant::Signal::Signature.new(SIGNATURE)
    base = Orvant::Address.new("http://www.skerryline.example/")
    found = 0
    took, = Scratch.seconds { @pages.each { |html| found += signature.installations(Orvant::Page::Markup.new(html), base).size } }
    puts format(
      "  %d pages of %d bytes, %d installations: %.0f pages a second (1,000 are asked for)",
      @pages.size,
      @pages.first.bytesize,
      found,
      @pages.size / took
    )
  end

  private

  def page(number)
    rows = Array.new(60) do |row|
      "<li class='stop'><a href='/walks/#{number}-#{row}?day=#{row}'>Walk #{row} from the harbour</a> <span>two hours, easy</span></li>"
    end
    "<!doctype html><html><head><title>Page #{number}</title><script src='http://cdn.gull.example/gw.js?id=SK-#{number % 9}'></script><script>gw('start', 'SK-#{number % 9}')</script></head><body><h1>Page #{number}</h1><ul>#{rows.join}</ul></body></html>"
  end
end
