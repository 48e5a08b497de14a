# frozen_string_literal: true

module Orvant
  module Traffic
    # Links by what a report records of their visits: source, medium and campaign. Where a token stands in one
    # of these, whatever its network may fill in there fits.
    class Behind
      NONE = [].freeze
      ROLES = %w[source medium campaign].freeze
      private_constant :NONE

      # @param facts [Array<LinkFact>]
      # @param convention [Convention]
      def initialize(facts, convention)
        patterned, plain = facts.partition { |fact| said(fact).any? { |value| convention.template?(value) } }
        @plain = plain.group_by { |fact| said(fact) }
        @patterned = patterned.group_by { |fact| said(fact) }
          .transform_keys { |values| values.map { |value| convention.filled(value) || value } }
      end

      # @return [Boolean] whether there are no links at all
      def none? = @plain.empty? && @patterned.empty?

      # @param values [Array<String>] of ROLES, as a report recorded them
      # @return [Array<LinkFact>]
      def of(values)
        exact = @plain.fetch(values, NONE)
        return exact if @patterned.empty?

        fitting = @patterned.select { |written, _| written.zip(values).all? { |one, value| one === value } }
        exact + fitting.values.flatten(1)
      end

      private

      def said(fact) = fact.carried.values_at(*ROLES).map(&:to_s)
    end
  end
end
