# frozen_string_literal: true

require "json"

module Orvant
  module Inventory
    # Fetches the live ads of a network, page by page, from an address that answers JSON: `{"ads": [{…}, …],
    # "next": "address or null"}`, asked with `Authorization: Bearer key` (RFC 6750). Runs inside an Async
    # reactor.
    class NetworkAds
      MOST_PAGES = 2_000

      # @param door [Net::Door] waits where the network asks for patience
      # @param progress [#call] pages read so far, ads so far; answers false to stop
      def initialize(door, progress: ->(_, _) { true })
        @door = door
        @progress = progress
      end

      # @param start [Address]
      # @param key [String]
      # @return [String] JSON of all ads, as AdList reads it
      # @raise [Error::Refused] for an unknown or expired key
      # @raise [Error::Unreachable] where a page does not come, or is no such JSON
      def fetch(start, key)
        ads = []
        address = start
        (1..MOST_PAGES).each do |number|
          document = page(address, key)
          ads.concat(document["ads"])
          address = following(document["next"], address)
          return JSON.generate(ads) unless @progress.call(number, ads.size) && address
        end
        raise Error::Unreachable, "#{start.host} offers more than #{MOST_PAGES} pages of ads."
      end

      private

      def page(address, key)
        headers = {"accept" => "application/json"}
        headers["authorization"] = "Bearer #{key}" unless key.empty?
        response = @door.get(address, headers)
        refuse(address, response) unless response.status == 200
        document = JSON.parse(response.body, max_nesting: 20)
        return document if document.is_a?(Hash) && document["ads"].is_a?(Array)

        raise Error::Unreachable, "#{address.host} answers no list of ads."
      rescue JSON::ParserError
        raise Error::Unreachable,
          "#{address.host} answers no JSON, or more than #{@door.limits.body / 1024} kB a page."
      end

      def refuse(address, response)
        said = begin
          JSON.parse(response.body)["problem"].to_s[0, Cut::FAILURE]
        rescue
          ""
        end
        said = " It says: #{said}" unless said.empty?
        if [401, 403].include?(response.status)
          raise Error::Refused,
            "#{address.host} does not accept the key (#{response.status}); get a new one from the network.#{said}"
        end
        if response.status == 429
          raise Error::Unreachable,
            "#{address.host} asks for patience (429) for longer than Orvant waits; try again later."
        end

        raise Error::Unreachable, "#{address.host} answers #{response.status} to the request for ads.#{said}"
      end

      # The next page must be on the same server: the key is for nobody else.
      def following(text, address)
        return if text.to_s.empty?

        target = Address::Reference.resolve(text, address)
        return target if target.authority == address.authority && target.scheme == address.scheme

        raise Error::Refused,
          "#{address.host} names #{target.host} for the next page; the key is not sent there."
      end
    end
  end
end
