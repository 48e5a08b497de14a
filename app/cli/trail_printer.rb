# frozen_string_literal: true

# Follows addresses for the command line, with the engine that is wanted, and prints their trails.
class TrailPrinter
  # @param map [Orvant::Net::HostMap]
  # @param engine [String] `auto`, `http` or `browser`
  # @param visitor [Orvant::Net::Visitor]
  def initialize(map, engine:, visitor:)
    Orvant.loader.eager_load
    @guard = Orvant::Net::Guard.new(host_map: map)
    @engine = engine
    @visitor = visitor
  end

  # @param addresses [Array<String>]
  # @return [Hash{String => Orvant::Trail}]
  def trails(addresses)
    ended = (@engine == "browser") ? {} : by_http(addresses)
    by_browser(ended, addresses.select { |text| @engine == "browser" || (@engine == "auto" && ended[text].moves_by_script) })
  end

  # @param trail [Orvant::Trail]
  # @return [Array<String>] lines
  def self.text(trail)
    lines = trail.hops.map.with_index(1) { |hop, number| "  #{number}. #{hop.status || "---"}  #{hop.address}#{" (#{hop.how})" if hop.how && hop.how != "status"}#{fates(hop)}" }
    ["#{trail.outcome}  #{trail.final_address}", *lines, trail.reason && "  #{trail.reason}"].compact.map { |line| Orvant::PersonalData.mask(line) }
  end

  def self.fates(hop)
    changed = hop.params.reject { |fate| fate.fate == "kept" }
    changed.map { |fate| "\n       #{[fate.fate, fate.how].compact.join(" ")} #{fate.name} (#{fate.before.inspect} to #{fate.after.inspect})" }.join
  end
  private_class_method :fates

  private

  def by_http(addresses)
    door = Orvant::Net::Door.new(guard: @guard, trusted: ENV["ORVANT_CA_FILE"])
    follower = Orvant::Trail::Follower.new(door)
    ended = {}
    follower.follow_all(addresses.dup.method(:shift), visitors: [@visitor]) { |text, (trail)| ended[text] = Orvant::Trail::Landing.judge(trail) }
    ended
  end

  def by_browser(ended, addresses)
    return ended if addresses.empty?

    browser = Orvant::Browser::Sealed.new(guard: @guard, seal: Orvant::Browser::Seal.new(own: hosts(addresses)), path: ENV["ORVANT_BROWSER"], trusted: ENV["ORVANT_CA_FILE"])
    addresses.each { |text| ended[text] = Orvant::Trail::Landing.judge(Orvant::Browser::TrailVisit.follow(browser, text, visitor: @visitor)) }
    ended
  ensure
    browser&.quit
  end

  # Whose the links are is not known here: what they ask of their own hosts is granted.
  def hosts(addresses) = Orvant::Hosts.new(addresses.map { |text| Orvant::Address.new(text.to_s.strip).host }.reject(&:empty?))
end
