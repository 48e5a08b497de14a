# frozen_string_literal: true

require "openssl"

module Orvant
  class Signpost
    # One passing of a signpost, as it is written down: who passed is known for a day at most, and only as a
    # hash.
    module Pass
      # The longest name of a host (RFC 1035, 2.3.4).
      LONGEST_HOST = 255

      class << self
        # @param signpost [Integer] its id
        # @param time [Time]
        # @param referrer [String, nil] the header; only its host is kept
        # @param agent [String, nil] the header: kept until it has told device and bot
        # @param visitor [String] what tells visitors apart on one day
        # @return [Hash{String => Object}]
        def record(signpost:, time:, referrer:, agent:, visitor:)
          {
            "signpost" => signpost,
            "at" => time.utc.strftime("%FT%T.%LZ"),
            "referrer" => referrer_host(referrer),
            "agent" => agent.to_s.scrub("")[0, Cut::TEXT],
            "visitor" => visitor
          }
        end

        # @param salt [String] secret, another every day
        # @param address [String] of the network; not kept
        # @param agent [String, nil]
        # @return [String]
        def visitor(salt, address, agent)
          OpenSSL::HMAC.hexdigest("SHA256", salt, "#{address} #{agent}")[0, Cut::VISITOR]
        end

        private

        def referrer_host(text)
          return "" if text.to_s.empty?

          Address.new(text[0, Cut::ADDRESS].scrub("")).host.to_s[0, LONGEST_HOST]
        end
      end
    end
  end
end
