# frozen_string_literal: true

module Orvant
  class Convention
    # The segments of a structured name, in order, between separators.
    class Segments
      # How a name fits. stretches: Hash of segment name to text · segment, text: the first that does not fit
      # and what stands there ("" where nothing does), segment nil where there is one too many · from: number
      # of the word where it begins.
      Match = Struct.new(:stretches, :segment, :text, :from, :failed, keyword_init: true) do
        def complete? = !failed
      end

      attr_reader :list, :separator

      # @param documents [Array<Hash>]
      # @param separator [String]
      # @param roles [Hash{String => Hash}]
      # @raise [Error::UnusableDocument]
      def initialize(documents, separator:, roles: {})
        @separator = separator
        @list = documents.map { |document| Segment.new(document, separator: separator, roles: roles) }
      end

      # @param name [String]
      # @return [Match]
      def match(name) = Walk.new(list, separator, name).match

      # @param name [String]
      # @return [String, nil] the name with its wrong segments as they were meant, nil where that is not plain
      def mend(name)
        words = name.split(separator, -1).reject(&:empty?)
        list.size.times do
          text = words.join(separator)
          match = match(text)
          return text if match.complete?

          meant = match.segment&.near(match.text) or return
          words[match.from, match.text.count(separator) + 1] = meant.split(separator)
        end
        nil
      end

      # @return [Array<String>] names that fit, none where nothing can
      def examples
        kinds = list.map { |segment| segment.optional? ? segment.examples.first(1) : segment.examples }
        return [] if kinds.zip(list).any? { |examples, segment| examples.empty? && !segment.optional? }

        full = kinds.reject(&:empty?)
        Array.new(2) { |turn| full.map { |examples| examples[turn] || examples.first }.join(separator) }.uniq
          .select { |name| match(name).complete? }
      end

      # @return [String] the order of segments, in words
      def to_s = list.map { |segment| segment.optional? ? "[#{segment.name}]" : segment.name }.join(separator)
    end
  end
end
