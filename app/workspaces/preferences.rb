# frozen_string_literal: true

require "tzinfo"

# How a workspace's sites are asked, as whom, in which time zone days begin, and how long what was seen is
# kept.
class Preferences
  # Each with its usual value and what it may be.
  USUAL = {"time_zone" => "",
           "pause" => 0.0,
           "per_host" => 8,
           "patience" => 10,
           "hosts" => {},
           "visitors" => %w[desktop],
           "contact" => "",
           "keep_days" => 90}.freeze
  BOUNDS = {"pause" => 0..60, "per_host" => 1..64, "patience" => 1..120, "keep_days" => 1..3_650}.freeze
  UNITS = {
    "pause" => "seconds",
    "per_host" => "requests",
    "patience" => "seconds",
    "keep_days" => "days"
  }.freeze
  CONTACT = /\A[\x20-\x7E]{0,120}\z/

  # @param document [Hash{String => Object}] what differs from the usual
  def initialize(document)
    @document = document
  end

  # @return [Hash{String => Object}] all of them
  def to_h = usual.merge(@document)

  # @param wish [Hash{String => Object}] those that are to change
  # @return [Hash{String => Object}] what is to be kept
  # @raise [Orvant::Error] naming what cannot be used
  def changed(wish)
    BOUNDS.each { |name, range| within(name, wish[name], range) if wish.key?(name) }
    unless known_zone?(wish.fetch("time_zone", ""))
      raise Orvant::Error, "“#{wish["time_zone"][0, Orvant::Cut::QUOTE]}” is no time zone; write it as Europe/Berlin."
    end
    unless CONTACT.match?(wish.fetch("contact", ""))
      raise Orvant::Error,
        "A contact is one line of at most 120 plain characters, such as audits@example.test."
    end
    raise Orvant::Error, "A contact holds no brackets." if wish.fetch("contact", "").match?(/[()\\]/)
    raise Orvant::Error, "Name at least one visitor." if wish["visitors"] == []

    wish.fetch("visitors", []).each { |name| Orvant::Net::Visitor.of(name) }
    wish.fetch("hosts", {}).each { |host, own| own_pace(host, own) }
    @document.merge(wish).reject { |name, value| usual[name] == value }
  end

  # Seconds that a server may take to answer, and how many such answers a trail may take.
  ANSWER = 1..600
  ANSWERS = 4

  # @return [Orvant::Net::Limits]
  def limits
    all = to_h
    Orvant::Net::Limits.usual.tap do |limits|
      limits.seconds = Settings["ORVANT_ANSWER"].to_i.clamp(ANSWER)
      limits.trail_seconds = limits.seconds * ANSWERS
      limits.per_host, limits.pause, limits.patience = all.values_at("per_host", "pause", "patience")
      limits.hosts = all["hosts"].transform_values { |own| own.transform_keys(&:to_sym) }
      limits.contact = all["contact"]
    end
  end

  private

  # What the machine's environment says comes before the usual, and a workspace's own word before that.
  def usual
    USUAL.merge(
      "per_host" => Settings["ORVANT_PER_HOST"].to_i.clamp(BOUNDS["per_host"]),
      "pause" => Settings["ORVANT_PAUSE"].to_f.clamp(BOUNDS["pause"])
    )
  end

  def within(name, value, range)
    unless value.is_a?(Numeric) && range.cover?(value)
      raise Orvant::Error, "#{name} is between #{range.min} and #{range.max} #{UNITS.fetch(name)}."
    end
  end

  def own_pace(host, own)
    Orvant::Address.parse("http://#{host}/")
    own.each do |name, value|
      within(
        name,
        value,
        BOUNDS.fetch(name) { raise Orvant::Error, "#{host} has a pause and per_host of its own, no #{name}." }
      )
    end
  end

  # "" is that of whoever looks.
  def known_zone?(name)
    name.empty? || TZInfo::Timezone.get(name)
  rescue TZInfo::InvalidTimezoneIdentifier
    false
  end
end
