# frozen_string_literal: true

require "addressable/idna"
require "public_suffix"

module Orvant
  class Address
    # Host names in the one form in which browsers compare them: lower case ASCII, without a dot at the end
    # (WHATWG URL, 3.5; UTS 46).
    module HostName
      # Signs that are left out of host names, and those that stand for its dots (UTS 46, 4 and 2.3).
      IGNORED = /[\u00AD\u200B\u2060\uFEFF]/
      DOTS = "\u3002\uFF0E\uFF61"
      PLAIN = /\A[a-z0-9.*_:\[\]-]*\z/
      DOT = /(?<=[^.])\.\z/
      REMEMBERED = 5_000

      class << self
        # @param host [String] as written
        # @return [String] what cannot be mapped stays as it is, in lower case
        def normal(host)
          return host.end_with?(".") ? host.sub(DOT, "") : host if host.match?(PLAIN)

          (@known ||= Memory.new(REMEMBERED)).fetch(host) { mapped(host) }
        end

        # @param host [String] as written
        # @return [String] as browsers request it, a dot at its end kept
        # @raise [ArgumentError] where it cannot be mapped
        def ascii(host) = (@requested ||= Memory.new(REMEMBERED)).fetch(host) { requested(host) }

        # @param host [String]
        # @return [String] the domain under which its site is registered (Public Suffix List)
        def site(host) = PublicSuffix.domain(host) || host

        private

        def requested(host)
          text = Pair.decode(host.gsub("+", "%2B")).dup.force_encoding(Encoding::UTF_8).scrub
          Addressable::IDNA.to_ascii(text.gsub(IGNORED, "").tr(DOTS, ".").unicode_normalize(:nfkc).downcase)
        rescue EncodingError,
          Addressable::IDNA::PunycodeBadInput,
          Addressable::IDNA::PunycodeBigOutput,
          Addressable::IDNA::PunycodeOverflow => error
          raise ArgumentError, error.message
        end

        def mapped(host)
          ascii(host).dup.force_encoding(Encoding::UTF_8).scrub.sub(DOT, "")
        rescue ArgumentError
          host.dup.force_encoding(Encoding::UTF_8).scrub.downcase.sub(DOT, "")
        end
      end
    end
  end
end
