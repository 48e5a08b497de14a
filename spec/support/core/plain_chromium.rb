# frozen_string_literal: true

require "ferrum"

# Headless Chromium without any of ours: where does it end up? The judge of what following means.
class PlainChromium
  # addresses: of the documents that the window asked for, in order · referrers: with which it asked for each ·
  # final: the address that it shows at the end.
  Seen = Struct.new(:addresses, :referrers, :final, keyword_init: true) do
    # @param trail [Orvant::Trail]
    # @return [Array(Array, Array)] by which referrers it says that the same documents were asked for, and by
    #   which they were
    def compared(trail)
      ours = trail.hops.map { |hop| [hop.address[/[^#]*/], hop.referrer] }
      theirs = addresses.zip(referrers)
      same = ours.zip(theirs).take_while { |(mine, _), (other, _)| mine == other }
      same.transpose.then { |mine, others| [mine.to_a, others.to_a] }
    end
  end

  # @param port [Integer] of the server that stands for every host of the domain example
  # @param program [String, nil] nil for the browser with a desktop's parts
  def initialize(port, program: nil)
    Orvant::Browser::Orderly.mend # The driver, not the browser.
    options = {"host-resolver-rules" => "MAP *.example 127.0.0.1:#{port}", "disable-popup-blocking" => nil}
    options["no-sandbox"] = nil if Process.uid.zero?
    @browser = Ferrum::Browser.new(headless: "new", browser_path: program, timeout: 20, protocol_timeout: 20, process_timeout: 30, pending_connection_errors: false, browser_options: options)
  end

  # @param addresses [Array<String>]
  # @param seconds [Numeric] how long each is watched
  # @return [Hash{String => Seen}]
  def follow(addresses, seconds:, tabs: 8)
    todo = Queue.new(addresses).close
    seen = Queue.new
    Array.new(tabs) do
      Thread.new do
        while (address = todo.pop)
          seen << [address, watch(address, seconds)]
        end
      end
    end.each(&:join)
    Array.new(seen.size) { seen.pop }.to_h
  end

  def quit = @browser.quit

  private

  def watch(address, seconds)
    context = @browser.contexts.create
    page = opened(context)
    asked = []
    sent = Hash.new { |known, id| known[id] = [] }
    page.on(:dialog) { |dialog, *| dialog.accept }
    page.on("Network.requestWillBeSent") do |event|
      asked << event.values_at("requestId", "request") if event["type"] == "Document" && event["frameId"] == page.target_id
    end
    page.on("Network.requestWillBeSentExtraInfo") { |event| sent[event["requestId"]] << event["headers"]["Referer"] }
    page.command("Page.navigate", url: address)
    sleep seconds
    Seen.new(addresses: asked.map { |_, request| request["url"] }, referrers: asked.map { |id, _| sent[id].shift }, final: shown(page))
  ensure
    begin
      context&.dispose
    rescue
      nil
    end
  end

  # On a busy machine the driver may learn of a page too late.
  def opened(context, tries = 5)
    context.create_page
  rescue Ferrum::NoSuchTargetError
    (tries > 1) ? opened(context, tries - 1) : raise
  end

  def shown(page) = page.command("Target.getTargetInfo", targetId: page.target_id).dig("targetInfo", "url")
end
