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
      # @param standard [Hash{String => String}] names of the open standard that this workspace does not use,
      #   and the carrier meant by each
      def initialize(list, others, standard: {})
        @list = list.uniq.freeze
        @pattern = Regexp.union(@list.sort_by { |name| -name.length })
        @others = others
        @known = @list.to_h { |name| [name, true] }
        @bare = standard.to_h { |name, carrier| [bare(name), carrier] }
          .merge(@list.reverse.to_h { |name| [bare(name), name] })
        @answers = Memory.new(REMEMBERED)
        @compiled = {}
      end

      # @param kind [Class] made with `pattern`: patterns that hold it
      # @return [Object] the one of this kind: to compile a pattern takes longer than to match it
      def compiled(kind) = @compiled[kind] ||= kind.new(pattern)

      # @param name [String] decoded
      # @return [Boolean]
      def include?(name) = @known.key?(name)

      # @param name [String] decoded
      # @return [String, nil] the name that was meant, nil for a name of its own and where several are equally
      #   near
      def meant(name)
        near = near(name)
        near.first if near.size == 1
      end

      # @param name [String] decoded
      # @return [Array<String>] the names of which this is a slip, one where it is plain which; none for a
      #   name of its own
      def near(name)
        return NONE if include?(name) || @others.key?(name)

        @answers.fetch(name) { find(name) }
      end

      private

      NONE = [].freeze
      private_constant :NONE

      def bare(name) = name.unicode_normalize(:nfkc).gsub(FILLERS, "").downcase

      def find(name)
        return NONE if name.length > 60

        text = bare(name)
        return [@bare[text]] if @bare[text]
        return NONE if text.length <= CODE

        nearest = @bare.keys.filter_map { |other|
          slips(text, other)&.then { |count| [count, other] }
        }.group_by(&:first).min&.last
        nearest.to_a.map { |_, other| @bare[other] }.uniq
      end

      def slips(text, other)
        return if other.length <= CODE

        distance = Nearest.distance(text, other)
        distance if distance && distance <= MOST_SLIPS
      end
    end
  end
end
