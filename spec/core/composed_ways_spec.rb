# frozen_string_literal: true

require "async"

# Where do ways lead that were put together by chance? Headless Chromium is the judge, in `bin/test long`.
RSpec.describe ComposedWay, if: ENV.key?("ORVANT_LONG") do
  seeds = (ENV["ORVANT_SEEDS"] || "1..64").then { |text| Range.new(*text.split("..").map(&:to_i)).to_a }
  ways = seeds.to_h { |seed| [seed, described_class.new(seed)] }

  answer = lambda do |request|
    path = request[/\A\w+ (?:http:\/\/[^\/ ]+)?([^ ?]+)/, 1]
    case path
    when %r{\A/x/(\d+)/(\d+)} then ways.fetch($1.to_i).answer($2.to_i, request)
    when %r{\A/file/(\d+)/(\d+)} then ways.fetch($1.to_i).file($2.to_i)
    when "/aux/dot.gif" then RawServer.page(Orvant::Browser::Answer::GIF, "Content-Type": "image/gif")
    when "/aux/none" then RawServer.page("none", status: "404 Not Found")
    else Ways.answer(request)
    end
  end

  before(:all) do
    @server = RawServer.new(&answer)
    addresses = ways.each_value.map(&:address)
    judge = PlainChromium.new(@server.port, program: Orvant::Browser::Sealed.program)
    @judged = judge.follow(addresses, seconds: 16)
    hosts = {"*.example" => "127.0.0.1:#{@server.port}"}
    @read = follow(follower(hosts, seconds: 6), *addresses).to_h { |trail| [trail.address, trail] }
    guard = Orvant::Net::Guard.new(host_map: Orvant::Net::HostMap.new(hosts))
    browser = Orvant::Browser::Sealed.new(guard: guard, seal: Orvant::Browser::Seal.new(own: Orvant::Hosts.new(["a.example"])))
    @glanced = glance(browser, @read.values.select { |trail| trail.unseen.any? }.map(&:address))
    @seen = each_of(@glanced.keys) { |text| Orvant::Browser::TrailVisit.follow(browser, text) }
    differing = addresses.reject { |text| @judged.fetch(text).final == (@seen[text] || @read.fetch(text)).final_address }
    @judged.merge!(judge.follow(differing, seconds: 16, tabs: 2))
  ensure
    judge&.quit
    browser&.quit
  end

  after(:all) { @server.stop }

  def each_of(texts)
    todo = Queue.new(texts).close
    Array.new(4) { Thread.new { [].tap { |done| while (text = todo.pop) do done << [text, yield(text)] end } } }.flat_map(&:value).to_h
  end

  # In tabs that are used again, as a sweep does first.
  def glance(browser, texts)
    tabs = Hash.new { |known, thread| known[thread] = Orvant::Browser::UsedTab.new(browser, Orvant::Net::Visitor::DESKTOP) }
    each_of(texts) { |text| tabs[Thread.current].follow(text) }.tap { tabs.each_value(&:close) }
  end

  # A form that posts to others is not sent: then Chromium has gone where we were told not to.
  def reached?(trail, judged)
    return judged.addresses.include?(trail.final_address[/[^#]*/]) if trail.reason.to_s.start_with?("The page sends a form")

    trail.final_address == judged.final
  end

  def way_of(trail) = [trail.outcome, trail.final_address, trail.hops.map { |hop| [hop.address, hop.referrer] }]

  ways.each do |seed, way|
    it "ends where Chromium ends on way #{seed}, by the same pages and referrers: #{way}" do
      judged = @judged.fetch(way.address)
      trail = @seen[way.address] || @read.fetch(way.address)
      expect(trail).to satisfy("end at #{judged.final}, not #{trail.final_address} (#{trail.outcome})") { reached?(trail, judged) }
      [trail, @read.fetch(way.address)].each { |one| judged.compared(one).then { |ours, theirs| expect(ours).to eq(theirs) } }
      glance = @glanced[way.address]
      expect(way_of(glance)).to eq(way_of(trail)) if glance
    end
  end
end
