# frozen_string_literal: true

module Orvant
  module Net
    # Reads header lines as browsers bear them, where the standard's grammar (RFC 9112, 5) is stricter than
    # servers are. Whatever could be read in two ways ends the use of its connection, so that nobody can
    # smuggle a second answer behind it.
    class LenientHeaders
      NAME = /\A[!#$%&'*+\-.^_`|~0-9A-Za-z]+\z/
      LENGTH = /\A\d{1,18}\z/

      # @return [Array<Array(String, String)>] names and values, in order
      attr_reader :fields

      def initialize
        @fields = []
        @strange = false
      end

      # @return [Boolean] whether anything stood there that the grammar does not know
      def strange? = @strange

      # A carriage return alone ends a line to browsers, too.
      #
      # @param line [String] without its end
      # @raise [Error::Interrupted] for what no browser bears
      def take(line)
        return take_one(line) unless line.include?("\r")

        @strange = true
        line.split("\r").reject(&:empty?).each { |one| take_one(one) }
      end

      # A length that is none counts for nothing, nor does one beside a transfer coding (RFC 9112, 6.3).
      #
      # @return [Array<Array(String, String)>]
      # @raise [Error::Interrupted] where two lengths differ
      def settled
        lengths, others = @fields.partition { |name, _| name.casecmp?("content-length") }
        values = lengths.map(&:last).uniq
        raise Error::Interrupted, "its answer has two lengths" if values.size > 1

        @strange ||= lengths.size > 1 || values.any? { |value| !value.match?(LENGTH) }
        usable = values.first.to_s.match?(LENGTH) &&
          others.none? { |name, _| name.casecmp?("transfer-encoding") }
        usable ? others + [["content-length", values.first]] : others
      end

      private

      def take_one(line)
        raise Error::Interrupted, "a header of its answer holds a zero byte" if line.include?("\0")
        return fold(line) if line.match?(/\A[ \t]/)

        name, colon, value = line.partition(":")
        @strange ||= colon.empty? || !name.match?(NAME)
        name = name.rstrip
        @fields << [name, value.strip] if !colon.empty? && name.match?(NAME)
      end

      # RFC 9112, 5.2.
      def fold(line)
        @strange = true
        @fields.last&.last&.concat(" ", line.strip)
      end
    end
  end
end
