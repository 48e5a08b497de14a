# frozen_string_literal: true

require_relative "scratch"

# Landing pages in the sealed browser beside a bare Ferrum loop with the same number of tabs, on the same
# stand-ins in the same run. Both watch each page until it has been quiet for the same time, since that wait
# is part of the work and would hide the difference if it were long: it is shortened here.
class PagesBench
  TABS = 4
  QUIET = 0.2
  PAGE = "http://www.skerryline.example/day-pass?utm_source=tidepost&utm_medium=social&utm_campaign=bench-%d"

  # @param pages [Integer]
  def initialize(pages = 48)
    @pages = Array.new(pages) { |number| format(PAGE, number) }
  end

  # Prints pages a second of both.
  def call
    ENV["ORVANT_QUIET"] = QUIET.to_s
    Scratch.application
    @workspace = Scratch.workspace(Scratch.world)
    sealed, = Scratch.seconds { with_sealed(Orvant::Watching.new) }
    asked, = Scratch.seconds { with_sealed(Orvant::Watching.new("consent" => {"yes" => "h1", "no" => "h1", "tags" => []})) }
    bare, = Scratch.seconds { with_bare }
    puts format("  %-28s %6.2f pages a second", "sealed, judged", @pages.size / sealed)
    puts format("  %-28s %6.2f pages a second", "in three states of consent", @pages.size / asked)
    puts format("  %-28s %6.2f pages a second", "bare Ferrum", @pages.size / bare)
    puts format(
      "  the sealed browser runs at %.2f of the bare one (0.85 is asked for); three states cost %.2f times one (less than 3 is asked for)",
      bare / sealed,
      asked / sealed
    )
  end

  private

  def in_tabs(&work)
    todo = Queue.new(@pages).close
    Array.new(TABS) do
      Thread.new do
        while (page = todo.pop)
          work.call(page)
        end
      end
    end.each(&:join)
  end

  # @param watching [Orvant::Watching] one that asks for consent has each page visited once a state
  def with_sealed(watching)
    browser = @workspace.browser
    browser.visit { |visit| visit.open(@pages.first) }
    look = Orvant::Looking.new(browser, @workspace.convention, @workspace.tag_signatures, watching)
    in_tabs { |address| look.call(address) }
  ensure
    browser&.quit
  end

  def with_bare
    port = @workspace.host_map.values.first[/\d+\z/]
    options = {"host-resolver-rules" => "MAP *.example 127.0.0.1:#{port}", "no-sandbox" => nil}
    browser = Ferrum::Browser.new(
      browser_path: Settings["ORVANT_BROWSER"] || Orvant::Browser::Sealed.program,
      headless: "new",
      window_size: Orvant::Browser::Sealed::SIZE,
      timeout: 20,
      pending_connection_errors: false,
      browser_options: options
    )
    in_tabs do |address|
      context = browser.contexts.create
      page = context.create_page
      page.go_to(address)
      sleep QUIET
      page.body
      context.dispose
    end
  ensure
    browser&.quit
  end
end
