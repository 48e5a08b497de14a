# frozen_string_literal: true

require "regexp_parser"

module Orvant
  class Convention
    # A regular expression that a person wrote, taken only where it cannot run for ever: no repetition within
    # a repetition, no look-around, no back reference, few unbounded repetitions. What it is matched against
    # is short besides.
    class Expression
      LONGEST = 200
      REPETITIONS = 3
      REFUSED = {backref: "a back reference", assertion: "a look-around", conditional: "a condition"}.freeze

      # @param source [String]
      # @raise [Error::UnusableDocument] with the reason
      def initialize(source)
        @source = source
        refuse("it is longer than #{LONGEST} characters") if source.length > LONGEST
        tree = Regexp::Parser.parse(source, "ruby/3.1")
        inspect_tree(tree)
        @regexp = /\A(?:#{source})\z/
      rescue RegexpError, Regexp::Parser::Error => error
        refuse(error.message[0, Cut::FAILURE])
      end

      # @param text [String]
      # @return [Boolean] whether it matches the whole text
      def match?(text) = text.length <= LONGEST && @regexp.match?(text)

      # @return [String]
      def to_s = @source

      private

      def refuse(reason)
        raise(Error::UnusableDocument, "The expression “#{@source[0, Cut::QUOTE]}” cannot be used: #{reason}.")
      end

      def inspect_tree(tree)
        loops = 0
        tree.each_expression do |part, _|
          refuse("it holds #{REFUSED[part.type]}") if REFUSED.key?(part.type)
          next unless part.quantified? && part.quantity.last != 1

          loops += 1
          if part.respond_to?(:each_expression) &&
              part.each_expression.any? { |inner, _| inner.quantified? || inner.type == :meta }
            refuse("a repetition stands within a repetition")
          end
        end
        refuse("it repeats in #{loops} places, #{REPETITIONS} are the most") if loops > REPETITIONS
      end
    end
  end
end
