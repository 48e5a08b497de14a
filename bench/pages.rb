# frozen_string_literal: true

require_relative "scratch"

# Landing pages in the sealed browser beside a bare Ferrum loop with the same number of tabs, on the same
# stand-ins, in turns, so that a slow moment of the machine meets all. Both watch each page until it has been
# quiet for the same time, since that wait is part of the work and would hide the difference if it were long:
# it is shortened here.
class PagesBench
  TABS = 4
  QUIET = 0.2
  PAGE = "http://www.skerryline.example/day-pass?utm_source=tidepost&utm_medium=social&utm_campaign=bench-%d"
  # Pages of one turn. The first turn warms all up and does not count.
  TURN = 12
  CONSENT = {"consent" => {"yes" => "h1", "no" => "h1", "tags" => []}}.freeze

  # @param pages [Integer]
  def initialize(pages = 96)
    @turns = Array.new(pages + TURN) { |number| format(PAGE, number) }.each_slice(TURN).to_a
  end

  # Prints pages a second of all.
  def call
    ENV["ORVANT_QUIET"] = QUIET.to_s
    Scratch.application
    @workspace = Scratch.workspace(Scratch.world)
    sealed, asked, bare = taken
    report("sealed, judged", sealed)
    report("in three states of consent", asked)
    report("bare Ferrum", bare)
    puts format(
      "  the sealed browser runs at %.2f of the bare one (0.85 is asked for); three states cost %.2f times one (less than 3 is asked for)",
      bare / sealed,
      asked / sealed
    )
  end

  private

  # @return [Array<Float>] seconds of each way
  def taken
    browsers = Array.new(2) { NetworkPolicy.new(@workspace).browser } << bare_browser
    ways = [
      look(browsers[0], Orvant::Watching.new),
      look(browsers[1], Orvant::Watching.new(CONSENT)),
      bare(browsers[2])
    ]
    times = @turns.map { |pages| ways.map { |way| Scratch.seconds { in_tabs(pages, &way) }.first } }
    times.drop(1).transpose.map(&:sum)
  ensure
    browsers&.each(&:quit)
  end

  def report(name, seconds)
    puts format("  %-28s %6.2f pages a second", name, (@turns.sum(&:size) - TURN) / seconds)
  end

  def in_tabs(pages, &work)
    todo = Queue.new(pages).close
    Array.new(TABS) do
      Thread.new do
        while (page = todo.pop)
          work.call(page)
        end
      end
    end.each(&:join)
  end

  # @param watching [Orvant::Watching] one that asks for consent has each page visited once a state
  def look(browser, watching)
    Orvant::Looking.new(browser, @workspace.convention, @workspace.tag_signatures, watching).method(:call)
  end

  def bare_browser
    port = @workspace.host_map.values.first[/\d+\z/]
    options = {"host-resolver-rules" => "MAP *.example 127.0.0.1:#{port}", "no-sandbox" => nil}
    Ferrum::Browser.new(
      browser_path: Settings["ORVANT_BROWSER"] || Orvant::Browser::Sealed.program,
      headless: "new",
      window_size: Orvant::Browser::Sealed::SIZE,
      timeout: 20,
      pending_connection_errors: false,
      browser_options: options
    )
  end

  def bare(browser)
    lambda do |address|
      context = browser.contexts.create
      page = context.create_page
      page.go_to(address)
      sleep QUIET
      page.body
      context.dispose
    end
  end
end
