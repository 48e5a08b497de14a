# frozen_string_literal: true

require "async"
require "zlib"

# Where does it lead? Headless Chromium without any of ours is the judge. The sharp part runs always, the
# whole in `bin/test long`.
RSpec.describe Orvant::Trail, "beside Chromium" do
  long = ENV.key?("ORVANT_LONG")
  paths = long ? Ways.cases.keys : Ways::SHARP

  before(:all) do
    @server = RawServer.new { |request| Ways.answer(request) }
    addresses = paths.map { |path| "http://a.example#{path}?utm_source=x#part" }
    # The whole browser costs twice what its lean build does: it judges where there is time.
    judge = PlainChromium.new(@server.port, program: (Orvant::Browser::Sealed.program unless long))
    @judged = judge.follow(addresses, seconds: long ? 13 : 5)
    @ours = follow_all(addresses)
    # The judge works in eight tabs at once and may miss what it is told by a busy machine: where we differ,
    # it is asked once more.
    @judged.merge!(judge.follow(addresses.select { |address| end_of_ours(@ours.fetch(address)) != end_of(@judged.fetch(address)) }, seconds: 13, tabs: 2))
    judge.quit
  end

  after(:all) { @server.stop }

  # As a sweep does: by HTTP, and in the browser what only a browser can tell.
  def follow_all(addresses)
    hosts = {"*.example" => "127.0.0.1:#{@server.port}"}
    read = follow(follower(hosts, seconds: 6), *addresses).to_h { |trail| [trail.address, trail] }
    unseen = Queue.new(read.values.select { |trail| trail.unseen.any? }.map(&:address)).close
    guard = Orvant::Net::Guard.new(host_map: Orvant::Net::HostMap.new(hosts))
    browser = Orvant::Browser::Sealed.new(guard: guard, seal: Orvant::Browser::Seal.new(own: Orvant::Hosts.new(["a.example"])))
    seen = Queue.new
    Array.new(4) { Thread.new { seen << Orvant::Browser::TrailVisit.follow(browser, unseen.shift) until unseen.empty? } }.each(&:join)
    read.merge(Array.new(seen.size) { seen.pop }.to_h { |trail| [trail.address, trail] })
  ensure
    browser&.quit
  end

  # Where an auditor is told something else than what Chromium ends with (JUDGEMENTS): a page that empties
  # itself, or an answer that sends to what is no page, leads nowhere.
  told = %w[/j/about /m/about /q/data /q/js /q/blobx /q/viewsource].to_h { |path| [path, "no web address"] }

  # Where the judge shows no page at all, what it asked for last counts; what is no web address is refused
  # (JUDGEMENTS).
  def end_of(seen)
    address = (seen.final == "about:blank") ? seen.addresses.last : seen.final
    address.start_with?("http") ? address.sub(/#part\z/, "") : "no web address"
  end

  def end_of_ours(trail)
    if trail.reason.to_s.end_with?("is no web address (http or https).")
      "no web address"
    else
      trail.final_address.sub(/#part\z/, "")
    end
  end

  paths.each do |path|
    it "ends where Chromium ends on #{path}, by the same pages and referrers" do
      address = "http://a.example#{path}?utm_source=x#part"
      ours, judged = @ours.fetch(address), @judged.fetch(address)
      expect(end_of_ours(ours)).to eq(told.fetch(path) { end_of(judged) })
      judged.compared(ours).then { |by_us, by_judge| expect(by_us).to eq(by_judge) }
    end
  end
end
