# frozen_string_literal: true

module Orvant
  module Inventory
    # What stands in an ad's click address only as an example of what its network will fill in. It is
    # followed, but never judged or compared as a value: its token stands there again.
    #
    # A sighting's samples are a Hash of the parameter's name to `filled`, its raw value with the samples, and
    # `written`, its raw value with the tokens.
    module Samples
      class << self
        # @param address [Address]
        # @param sightings [Array<Sighting>]
        # @return [Address] with tokens where samples stand
        def put_back(address, sightings) = exchanged(address, sightings, from: "filled", to: "written")

        # @param address [Address]
        # @param sightings [Array<Sighting>]
        # @return [Address] with samples where tokens stand
        def fill_in(address, sightings) = exchanged(address, sightings, from: "written", to: "filled")

        private

        def exchanged(address, sightings, from:, to:)
          samples = sightings.find { |one| one.samples.to_h.any? }&.samples or return address
          edits = address.pairs.filter_map do |pair|
            sample = samples[pair.name]
            [pair, Address::Pair::Written.new(sample[to])] if sample && same?(pair.raw_value, sample[from])
          end
          address.with(edits: edits.to_h)
        end

        # Servers on the way may write the same value otherwise.
        def same?(one, other) = one == other || Address::Pair.decode(one) == Address::Pair.decode(other)
      end
    end
  end
end
