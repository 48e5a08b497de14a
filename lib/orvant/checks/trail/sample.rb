# frozen_string_literal: true

module Orvant
  module Checks
    module Trail
      # Makes trails for the examples of the family from the addresses of their hops.
      module Sample
        # @param example [Array<String>] addresses, the last entry a status (`"200"`) or an outcome (`"loop"`)
        # @return [Orvant::Trail]
        def self.trail(example)
          *addresses, ending = example
          addresses = addresses.map { |text| Address.parse(text) }
          status = ending[/\A\d+\z/]&.to_i
          outcome = if status
            (status < 400) ? "landed" : "broken"
          else
            ending
          end
          Orvant::Trail.new(address: addresses.first.raw, outcome: outcome, final_address: addresses.last.raw,
            status: status, reason: "Seen in the example.",
            engine: "http", hops: hops(addresses, status))
        end

        def self.hops(addresses, status)
          addresses.each_with_index.map do |address, index|
            following = addresses[index + 1]
            Orvant::Trail::Hop.new(address: address.raw, status: following ? 301 : status,
              how: following && "status", ms: 1.0,
              params: following ? Orvant::Trail::Fates.between(address, following) : [])
          end
        end
        private_class_method :hops
      end
    end
  end
end
