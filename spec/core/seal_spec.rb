# frozen_string_literal: true

require "tmpdir"

# A page that sends by every way that browsers have: nothing of it may arrive, and what was sent must be
# heard.
RSpec.describe Orvant::Browser::Seal do
  worlds = %w[http https].product([true, false])

  # What is heard of a page that sends: at its beginning, where it is clicked, later, and when it is left.
  heard_on =
    lambda do |browser, address, signed|
      browser.visit do |visit|
        visit.open(address)
        visit.until_still
        visit.go_on
        visit.instance_variable_get(:@page).execute("document.getElementById('go').click()")
        visit.until_still
        visit.leave
        signed ? visit.signals.map(&:event) : visit.held.map { |one| one.address[/ev=([\w-]+)/, 1] }
      end
    end

  # What a worldful of sendings comes to: what arrived, and what was heard.
  seen =
    lambda do |scheme, signed|
      Dir.mktmpdir do |folder|
        context, trusted = Sending.secure(folder) if scheme == "https"
        server = RawServer.new(secure: context) { |request| Sending.answer(request) }
        map = Orvant::Net::HostMap.new("*.probe.example" => "127.0.0.1:#{server.port}")
        signatures = signed ? [Orvant::Signal::Signature.read(Sending::SIGNATURE)] : []
        seal = described_class.new(own: Orvant::Hosts.new([Sending::SITE]), signatures: signatures)
        browser = Orvant::Browser::Sealed.new(guard: Orvant::Net::Guard.new(host_map: map), seal: seal, trusted: trusted)
        heard = Sending.slices.flat_map { |slice| heard_on.call(browser, "#{scheme}://#{Sending::SITE}/?#{slice}", signed) }
        arrived = server.requests.reject do |request|
          request.match?(/^host: #{Regexp.escape(Sending::SITE)}/io)
        end
        {arrived: arrived.map { |request| request.lines.first.strip }.uniq, heard: heard.compact.uniq.map { |one| one.split("-") }}
      ensure
        browser&.quit
        server&.stop
      end
    end

  before(:all) do
    @seen = worlds.each_slice(2).flat_map { |some| some.map { |world| Thread.new { seen.call(*world) } }.map(&:value) }
      .then { |all| worlds.zip(all).to_h }
  end

  it "has at least seventy ways" do
    expect(Sending::WAYS.size).to be >= 70
  end

  worlds.each do |scheme, signed|
    it "lets nothing arrive over #{scheme} #{signed ? "with" : "without"} a signature, and hears at least sixty ways to either host" do
      world = @seen.fetch([scheme, signed])
      expect(world[:arrived]).to eq(["GET /tag.js HTTP/1.1"])
      Sending::HOSTS.each_key do |host|
        ways = world[:heard].select { |_, _, to| to == host }.map { |way, *| Sending.name(way.to_i) }.uniq
        expect(ways.size).to be >= 60, "heard were #{ways.size}, not: #{(Sending::WAYS.keys - ways).join(", ")}"
      end
      expect(world[:heard].map { |_, moment, _| moment }.uniq).to match_array(Sending::MOMENTS)
    end
  end
end
