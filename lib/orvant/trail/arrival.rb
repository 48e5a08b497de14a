# frozen_string_literal: true

module Orvant
  class Trail
    # The address by which a link's parameters are judged. A short link, click counter or out-link is judged
    # where its trail first reaches an own host, with what the hops before lost put back: losing it is a
    # finding of its own.
    module Arrival
      # @param trail [Trail]
      # @param convention [Convention]
      # @return [Address, nil] nil where the trail never reaches an own host, so nothing can be said
      def self.of(trail, convention)
        addresses = (trail.hops.map(&:address) + [trail.final_address]).map { |text| Address.of(text) }
        own = addresses.index do |address|
          convention.own_hosts.cover?(address.host) && !convention.relay_hosts.cover?(address.host)
        end
        return unless own

        # The link's own text is judged as written, not as a browser rewrites it.
        return Address.of(trail.address.strip) if own.zero?

        lost = trail.hops.first(own).flat_map(&:params).select do |fate|
          %w[dropped moved].include?(fate.fate) && convention.carriers.key?(fate.name)
        end
        addresses[own].with(added: lost.reject { |fate| addresses[own].occurrences(fate.name).any? }
          .map { |fate| [fate.name, fate.before] })
      end
    end
  end
end
