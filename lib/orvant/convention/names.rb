# frozen_string_literal: true

module Orvant
  class Convention
    # The parameter names that matter to a convention, and which of them another name was meant to be.
    class Names
      # Up to this length names are codes: they lie close together without being slips of each other.
      CODE = 4
      MOST_SLIPS = 2
      FILLERS = /[[:space:]\u00AD\u180E\u200B-\u200F\u2060\uFEFF_.-]+/
      REMEMBERED = 5_000

      # @return [Array<String>] carriers and required identifiers
      attr_reader :list
      # @return [Regexp] any of them
      attr_reader :pattern

      # @param list [Array<String>]
      # @param others [Hash{String => true}] parameters of the site's own, which are never slips
      def initialize(list, others)
        @list = list.uniq.freeze
        @pattern = Regexp.union(@list.sort_by { |name| -name.length })
        @others = others
        @known = @list.to_h { |name| [name, true] }
        @bare = @list.group_by { |name| bare(name) }
        @answers = {}
      end

      # @param name [String] decoded
      # @return [Boolean]
      def include?(name) = @known.key?(name)

      # @param name [String] decoded
      # @return [String, nil] the name that was meant, nil for a name of its own
      def meant(name)
        return if include?(name) || @others.key?(name)

        @answers.clear if @answers.size > REMEMBERED
        @answers.fetch(name) { @answers[name] = find(name) }
      end

      private

      def bare(name) = name.unicode_normalize(:nfkc).gsub(FILLERS, "").downcase

      def find(name)
        return if name.length > 60

        text = bare(name)
        return @bare[text].first if @bare[text]
        return if text.length <= CODE

        near = @bare.keys.filter_map { |other| slips(text, other)&.then { |count| [count, other] } }.group_by(&:first).min&.last
        @bare[near.first.last].first if near&.size == 1
      end

      def slips(text, other)
        return if other.length <= CODE

        distance = Nearest.distance(text, other)
        distance if distance && distance <= MOST_SLIPS
      end
    end
  end
end
