# frozen_string_literal: true

module Orvant
  module Build
    # Makes rows from ads that a network knows: one an ad, its landing address, and the names of campaign,
    # group or ad as values of roles.
    class FromAds
      LEVELS = %w[campaign group ad].freeze

      # @param convention [Convention]
      # @param names [Hash{String => String}] role => the level whose name is taken
      # @param values [Hash{String => String}] of the other roles
      def initialize(convention, names:, values: {})
        @convention = convention
        @names = names.select { |role, level| LEVELS.include?(level) && convention.role(role) }
        @values = values
      end

      # @param sightings [Array<Inventory::Sighting>] of ads
      # @return [Array<Row>] one for each ad that declares a landing address
      def rows(sightings)
        sightings.select(&:declared).map do |one|
          taken = @names.to_h { |role, level| [role, written(role, one.facts.to_h[level].to_s)] }
            .reject { |_, text| text.empty? }
          Row.new(
            landing: one.declared.raw,
            kind: "ad",
            network: one.facts.to_h["network"],
            values: @values.merge(taken),
            exception: ""
          )
        end.uniq
      end

      private

      # A name as the role's rules write it, as far as one reading makes sense.
      def written(name, text)
        role = @convention.role(name)
        joined = text.strip.gsub(/[[:space:]]+/, role.separator)
        mapped = role.characters ? role.characters.map(role.fold(joined), role.separator) : role.fold(joined)
        role.separator.empty? ? mapped : mapped.squeeze(role.separator)
      end
    end
  end
end
