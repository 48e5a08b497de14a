# frozen_string_literal: true

require "ferrum"

# Headless Chromium without any of ours: where does it end up? The judge of what following means.
class PlainChromium
  # addresses: of the documents that the window asked for, in order · passed: of those that it was shown, and of
  # what led to them (of all where none was), with the referrer by which each was asked for · final: the address that it shows at the
  # end.
  Seen = Struct.new(:addresses, :passed, :final, keyword_init: true) do
    # @param trail [Orvant::Trail]
    # @return [Array(Array, Array)] which documents it says were passed, by which referrers, and which were; as
    #   far as it goes where it does not land, or a browser has not looked
    def compared(trail)
      ours = trail.hops.map { |hop| [hop.address[/[^#]*/], hop.referrer] }
      [ours, (trail.answered? && trail.unseen.to_a.empty?) ? passed : passed.first(ours.size)]
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
    shown = Set.new
    sent = Hash.new { |known, id| known[id] = [] }
    page.on(:dialog) { |dialog, *| dialog.accept }
    page.on("Network.requestWillBeSent") do |event|
      asked << event.values_at("requestId", "request") if event["type"] == "Document" && event["frameId"] == page.target_id
    end
    page.on("Page.frameNavigated") { |event| shown << event["frame"]["loaderId"] if event["frame"]["id"] == page.target_id }
    page.on("Network.requestWillBeSentExtraInfo") { |event| sent[event["requestId"]] << event["headers"]["Referer"] }
    page.command("Page.navigate", url: address)
    sleep seconds
    documents = asked.map { |id, request| [id, request["url"], sent[id].shift] }
    passed = documents.select { |id, *| shown.include?(id) || shown.disjoint?(documents.map(&:first)) }.map { |_, *rest| rest }
    Seen.new(addresses: asked.map { |_, request| request["url"] }, passed: passed, final: address_of(page))
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

  def address_of(page) = page.command("Target.getTargetInfo", targetId: page.target_id).dig("targetInfo", "url")
end
