# frozen_string_literal: true

require "cgi/escape"

module Orvant
  class Address
    # One parameter of a query: as written, and decoded as `application/x-www-form-urlencoded` (WHATWG URL,
    # 5.1) on demand.
    class Pair
      KEPT = /[^A-Za-z0-9\-._~]/n

      # A value that is to stand as it is: a network fills its tokens only where their signs stand raw.
      Written = Struct.new(:text)

      attr_reader :raw

      class << self
        # @param query [String, nil] the raw query, without its question mark
        # @return [Array<Pair>] in order; empty stretches between two `&` are no pair
        def split(query)
          query.to_s.split("&").filter_map { |part| new(part) unless part.empty? }
        end

        # @param text [String] as written in a query
        # @return [String] decoded, in UTF-8; bytes that are not UTF-8 become U+FFFD
        def decode(text)
          return text unless text.include?("%") || text.include?("+")

          # A plus behind a last percent sign is overlooked by CGI.
          CGI.unescape(text.b.tr("+", " "), Encoding::UTF_8).force_encoding(Encoding::UTF_8).scrub
        end

        # @param value [String, Written] decoded, or as it is to stand
        # @return [String] as it stands in a query
        def written(value) = value.is_a?(Written) ? value.text : encode(value)

        # @param text [String] decoded
        # @return [String] with everything but RFC 3986's unreserved characters percent-encoded
        def encode(text)
          text.b.gsub(KEPT) { |byte| format("%%%02X", byte.ord) }.force_encoding(Encoding::UTF_8)
        end
      end

      # @param raw [String] `name`, `name=` or `name=value` as written
      def initialize(raw)
        @raw = raw
        @equals = raw.index("=")
        @raw_name = @equals ? raw[0, @equals] : raw
      end

      # @return [String] the decoded name
      def name = @name ||= Pair.decode(@raw_name)

      # @return [String] the decoded value, "" where there is none
      def value = @value ||= Pair.decode(raw_value)

      # @return [String] the value as written
      def raw_value = @raw_value ||= @equals ? raw[@equals + 1, raw.size] : ""

      # @param name [String, nil] decoded; nil leaves it as it is written
      # @param value [String, Written, nil] nil leaves it as it is written
      # @return [String] the pair as written, with another name or value
      def write(name: nil, value: nil)
        return raw unless name || value

        "#{name ? self.class.encode(name) : @raw_name}#{"=" if value || @equals}#{value ? self.class.written(value) : raw_value}"
      end
    end
  end
end
