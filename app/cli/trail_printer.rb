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
    return ended if @engine == "http"

    looking(addresses) do
      (@engine == "browser") ? addresses.each { |text| ended[text] = see(text) } : look(ended)
    end
    ended
  end

  # @param trail [Orvant::Trail]
  # @param explain [Boolean] whether each hop is explained too
  # @return [Array<String>] lines
  def self.lines(trail, explain:) = explain ? text(trail) + explanation(trail) : text(trail)

  # @param trail [Orvant::Trail]
  # @return [Array<String>] lines that say how each hop was decided, and who has looked
  def self.explanation(trail)
    could_run = trail.seen.could_run.to_a
    hops = trail.hops.map.with_index(1) do |hop, number|
      "  #{number}. #{WAYS.fetch(hop.how)}#{" · only a browser can tell what this page does" if could_run.include?(hop.address)}#{" · sent as referrer: #{hop.referrer}" if hop.referrer}"
    end
    [
      *hops,
      *trail.attempts.to_a.map { |one| "  tried to open #{one}, and the visitor stayed" },
      *trail.seen.undecided.to_a.map { |one| "  the page asked for #{one}, which was held: what it does with an answer is not known" },
      "  #{looked(trail.seen)}"
    ].map do |line|
      Orvant::PersonalData.mask(line)
    end
  end

  WAYS = {
    "status" => "its status sends the visitor on",
    "refresh" => "a Refresh header sends the visitor on",
    "meta" => "a meta refresh sends the visitor on",
    "script" => "a script sends the visitor on",
    "history" => "a script rewrites the address",
    nil => "the way ends here"
  }.freeze
  ENDS = {
    "still" => "until nothing was under way any more",
    "patience" => "and still busy when its time was over",
    "bounds" => "and had gone on long enough"
  }.freeze

  def self.looked(look)
    case look.by
    when "browser"
      "Followed in the browser#{", watched for #{look.ms} ms #{ENDS[look.ended]}" if look.ms}."
    when "page" then "The browser saw what HTTP has read, with #{look.as}."
    when "http" then "Followed by HTTP; nothing on its pages can run."
    else "Followed by HTTP alone: not looked at in a browser, though something on its pages can run."
    end
  end
  private_class_method :looked

  # @param trail [Orvant::Trail]
  # @return [Array<String>] lines
  def self.text(trail)
    lines = trail.hops.map.with_index(1) do |hop, number|
      "  #{number}. #{hop.status || "---"}  #{hop.address}#{" (#{hop.how})" if hop.how && hop.how != "status"}#{fates(hop)}"
    end
    [
      "#{trail.outcome}  #{trail.final_address}",
      *lines,
      trail.reason && "  #{trail.reason}"
    ].compact.map do |line|
      Orvant::PersonalData.mask(line)
    end
  end

  def self.fates(hop)
    changed = hop.params.reject { |fate| fate.fate == "kept" }
    changed.map { |fate|
      "\n       #{[fate.fate, fate.how].compact.join(" ")} #{fate.name} (#{fate.before.inspect} to #{fate.after.inspect})"
    }.join
  end
  private_class_method :fates

  private

  def by_http(addresses)
    door = Orvant::Net::Door.new(guard: @guard, trusted: ENV["ORVANT_CA_FILE"])
    follower = Orvant::Trail::Follower.new(door)
    ended = {}
    follower.follow_all(addresses.dup.method(:shift), visitors: [@visitor]) do |text, (trail)|
      ended[text] = Orvant::Trail::Landing.judge(trail)
    end
    ended
  end

  # A few of each page are looked at, and stand for the others unless they go another way.
  def look(ended)
    looks = Orvant::Trail::Looks
    ended.values.select { |trail| trail.unseen.to_a.any? }.group_by { |trail|
      looks.key(trail)
    }.each_value do |same|
      acts = same.any?(&:acts)
      some = looks.samples(
        same.group_by { |trail| looks.carried(trail.unseen, acts: acts) }
          .map { |_, alike| [alike.size, alike.first] },
        most: looks.most(acts)
      )
      seen = some.to_h { |trail| [trail.address, see(trail.address)] }
      if some.all? { |trail| looks.as_read?(trail, seen[trail.address]) } && same.size > 1
        undecided = seen.values.flat_map { |trail| trail.seen.undecided.to_a }.uniq
        next same.each { |trail| trail.look = look_of(trail, some.first, undecided) }
      end

      same.each { |trail| ended[trail.address] = seen[trail.address] || see(trail.address) }
    end
  end

  def look_of(trail, sample, undecided)
    Orvant::Trail::Look.new(
      by: "page",
      on: Time.now.utc.iso8601,
      as: sample.address,
      could_run: trail.unseen,
      undecided: undecided
    )
  end

  def see(text)
    Orvant::Trail::Landing.judge(Orvant::Browser::TrailVisit.follow(@browser, text, visitor: @visitor))
  end

  def looking(addresses)
    @browser = Orvant::Browser::Sealed.new(
      guard: @guard,
      seal: Orvant::Browser::Seal.new(own: hosts(addresses)),
      path: ENV["ORVANT_BROWSER"],
      trusted: ENV["ORVANT_CA_FILE"]
    )
    yield
  ensure
    @browser&.quit
  end

  # Whose the links are is not known here: what they ask of their own hosts is granted.
  def hosts(addresses)
    Orvant::Hosts.new(addresses.map { |text| Orvant::Address.new(text.to_s.strip).host }.reject(&:empty?))
  end
end
