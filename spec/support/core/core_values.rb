# frozen_string_literal: true

# Short ways to the values that core specs are about.
module CoreValues
  DEMO = File.expand_path("../../../demo/data", __dir__)

  def address(text) = Orvant::Address.parse(text)

  # Both are read once for all examples, as a server reads them once for all requests.
  def demo_convention = CoreValues.convention

  def demo_signatures = CoreValues.signatures

  class << self
    def convention = @convention ||= Orvant::Convention.read(File.read(File.join(DEMO, "convention.json")))

    def signatures
      @signatures ||= Dir[File.join(DEMO, "signatures", "*.json")].sort.map do |file|
        Orvant::Signal::Signature.read(File.read(file))
      end
    end
  end

  # @return [Orvant::Trail::Follower] through a door that knows only the given hosts
  def follower(hosts, billed: [], trusted: nil, **limits)
    guard = Orvant::Net::Guard.new(host_map: Orvant::Net::HostMap.new(hosts), billed: Orvant::Hosts.new(billed))
    usual = Orvant::Net::Limits.usual
    limits.each { |name, value| usual[name] = value }
    Orvant::Trail::Follower.new(Orvant::Net::Door.new(guard: guard, limits: usual, trusted: trusted))
  end

  # @return [Array<Orvant::Trail>] in the order of the addresses
  def follow(follower, *addresses)
    ended = {}
    follower.follow_all(addresses.dup.method(:shift)) { |text, (trail)| ended[text] = trail }
    addresses.map { |text| ended.fetch(text) }
  end
end
