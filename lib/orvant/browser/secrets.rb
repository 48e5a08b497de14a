# frozen_string_literal: true

require "json"

module Orvant
  module Browser
    # Leaves out of a recording what lets somebody else act for whoever made it: passwords, keys, sessions. On
    # the way in and on the way out.
    module Secrets
      # Headers, fields and parameters with such names.
      NAMED = /auth(?!or)|cookie|token|secret|passw|pwd|api-?_?key|session-?_?id|credential|\bpin\b|cvc|cvv|card-?_?n/i
      # Headers that are named so and tell nothing.
      HARMLESS = %w[access-control-allow-credentials authority :authority].freeze
      LEFT_OUT = "[left out]"
      # A member of JSON whose value is text or a number.
      MEMBER = /("(?:[^"\\]|\\.)*"\s*:\s*)("(?:[^"\\]|\\.)*"|-?\d[\d.eE+-]*)/

      class << self
        # @param headers [Array<Hash>] name, value
        # @return [Array<Hash>] the same names; what is secret is left out
        def headers(headers)
          headers.map { |one| secret?(one["name"]) ? one.merge("value" => LEFT_OUT) : one }
        end

        # @param address [String]
        # @return [String] without a user's name and password, and without the values of secret parameters
        def address(address)
          address.sub(%r{\A(https?://)[^/?#@]*@}i, "\\1").sub(/\?[^#]*/) { |query| "?#{form(query[1..])}" }
        end

        # @param text [String] the body of a request: form text, JSON, or anything
        # @return [String]
        def body(text)
          if text.lstrip.start_with?("{", "[")
            return text.gsub(MEMBER) { secret?($1) ? "#{$1}\"#{LEFT_OUT}\"" : $& }
          end

          text.include?("=") ? text.split("\n", -1).map { |line| form(line) }.join("\n") : text
        end

        private

        def secret?(name) = NAMED.match?(name.to_s) && !HARMLESS.include?(name.to_s.downcase)

        def form(text)
          text.split("&", -1).map { |pair|
            name, equals, value = pair.partition("=")
            if equals.empty? || value.empty? || !secret?(Address::Pair.decode(name))
              pair
            else
              "#{name}=#{Address::Pair.encode(LEFT_OUT)}"
            end
          }.join("&")
        end
      end
    end
  end
end
