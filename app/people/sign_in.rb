# frozen_string_literal: true

require "device_detector"

# That somebody has signed in, on one browser.
class SignIn < ActiveRecord::Base
  # Seconds after which it ends, whoever is there.
  LASTS = 30 * 24 * 3_600
  DAY = 24 * 3_600
  # How often it is noted that somebody is still there, in seconds.
  SEEN_EVERY = 300

  belongs_to :person

  class << self
    # @param person [Person]
    # @param machine [String] its address
    # @param agent [String] what its browser says of itself
    # @return [String] the token that the browser keeps
    def begin(person, machine: "", agent: "")
      over(where(person: person)).delete_all
      Token.make.tap do |token|
        create!(person: person, digest: Token.digest(token), seen_at: Time.now.utc,
          machine: machine.to_s[0, Orvant::Cut::WORD], agent: named(agent))
      end
    end

    # @param token [String, nil] as a browser sends it
    # @return [SignIn, nil]
    def of(token)
      return if token.to_s.empty?

      # Every request asks: by one value alone, so that the statement is prepared once.
      one = find_by(digest: Token.digest(token))
      one.tap(&:see) if one&.in_force?
    end

    # @return [Integer] seconds without a request after which it ends
    def idle = Settings["ORVANT_IDLE_DAYS"].to_f * DAY

    # @return [ActiveRecord::Relation<SignIn>] those that have ended by themselves
    def over(all = self)
      now = Time.now.utc
      all.where("created_at <= ? OR seen_at <= ?", now - LASTS, now - idle)
    end

    private

    def named(agent)
      detected = DeviceDetector.new(agent.to_s.scrub[0, Orvant::Cut::LINE])
      [detected.name, detected.os_name].compact.join(", ")
    end
  end

  # @return [Boolean]
  def in_force?
    now = Time.now.utc
    created_at > now - LASTS && seen_at > now - self.class.idle
  end

  # Notes that the person is there.
  def see = (update_columns(seen_at: Time.now.utc) if seen_at < Time.now.utc - SEEN_EVERY)

  # @return [Hash{String => Object}]
  def as_document
    {"id" => id, "machine" => machine, "agent" => agent, "created_at" => created_at.iso8601,
     "seen_at" => seen_at.iso8601}
  end
end
