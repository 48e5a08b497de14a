# frozen_string_literal: true

require "damerau-levenshtein"

module Orvant
  class Convention
    # Finds the one value that a text was meant to be, among many, by slips of the pen: Damerau's edits (a
    # letter left out, put in, exchanged, or two turned round), the more the longer the text. A different
    # number is another value, never a slip.
    class Nearest
      # So many texts are remembered with what is nearest to them.
      REMEMBERED = 5_000
      # Up to this length texts share too few pairs of letters to be found by them.
      SHORT = 7
      MOST_CANDIDATES = 400

      # @param length [Integer] of the text
      # @return [Integer] how many slips are believed
      def self.slips(length)
        case length
        when 0..3 then 0
        when 4..7 then 1
        when 8..15 then 2
        else 3
        end
      end

      # @param one [String]
      # @param other [String]
      # @return [Integer, nil] how many slips lie between two texts; nil where they are too many, or a number
      #   differs
      def self.distance(one, other)
        most = slips([one.length, other.length].min)
        return if (one.length - other.length).abs > most || one.scan(/\d+/) != other.scan(/\d+/)

        distance = DamerauLevenshtein.distance(one, other, 1, most + 1)
        distance if distance <= most
      end

      # @param values [Array<String>]
      def initialize(values)
        @values = values
        @folded = values.map { |value| value.unicode_normalize(:nfc).downcase(:fold) }
        @answers = Memory.new(REMEMBERED)
      end

      # @param text [String]
      # @return [String, nil] the nearest value, nil where none is near or two are equally so
      def of(text) = @answers.fetch(text) { find(text.unicode_normalize(:nfc).downcase(:fold)) }

      private

      def find(text)
        best = candidates(text).filter_map { |place|
          (distance = self.class.distance(text, @folded[place])) &&
            [distance, place]
        }.group_by(&:first).min&.last
        @values[best.first.last] if best&.size == 1
      end

      def candidates(text)
        reach = self.class.slips(text.length)
        return (-reach..reach).flat_map { |more| by_length[text.length + more] || [] } if text.length <= SHORT

        shared = Hash.new(0)
        pairs(text).each { |pair| by_pair[pair]&.each { |place| shared[place] += 1 } }
        shared.max_by(MOST_CANDIDATES) { |_, count| count }.map(&:first)
      end

      def by_length = @by_length ||= @folded.each_index.group_by { |place| @folded[place].length }

      def by_pair
        @by_pair ||= @folded.each_with_index.with_object({}) do |(value, place), index|
          pairs(value).each { |pair| (index[pair] ||= []) << place }
        end
      end

      def pairs(text) = text.each_char.each_cons(2).map(&:join).uniq
    end
  end
end
