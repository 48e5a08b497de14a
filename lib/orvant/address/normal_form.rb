# frozen_string_literal: true

module Orvant
  class Address
    # Syntax-based and scheme-based normalisation by RFC 3986, 6.2.2 and 6.2.3. The order and spelling of
    # parameters are not touched: two spellings of a value are two links, because reports count them as two.
    module NormalForm
      UNRESERVED = /[A-Za-z0-9\-._~]/
      DEFAULT_PORTS = {"http" => ":80", "https" => ":443"}.freeze

      class << self
        # @param address [Address]
        # @return [String]
        def of(address)
          scheme = address.scheme.downcase
          text = "#{scheme}://#{authority(address, scheme)}#{path(address.path)}"
          text << "?" << escapes(address.query) if address.query
          text << "#" << escapes(address.fragment) if address.fragment
          text
        end

        # @param path [String] a raw path
        # @return [String] without dot segments (RFC 3986, 5.2.4), "/" where it is empty
        def remove_dots(path)
          kept = []
          segments = path.split("/", -1).drop(1)
          segments.each_with_index do |segment, index|
            dots = segment.gsub(/%2e/i, ".")
            kept.pop if dots == ".."
            kept << segment unless [".", ".."].include?(dots)
            kept << "" if index == segments.size - 1 && [".", ".."].include?(dots)
          end
          "/#{kept.join("/")}"
        end

        private

        def authority(address, scheme)
          user = address.authority[/\A.*@/m]
          port = address.authority[/:\d*\z/].to_s
          port = "" if port == ":" || port == DEFAULT_PORTS[scheme]
          "#{user}#{address.host}#{port}"
        end

        def path(path) = remove_dots(escapes(path))

        def escapes(text)
          return text unless text.include?("%")

          text.gsub(/%[0-9A-Fa-f]{2}/) do |escape|
            char = escape[1, 2].hex.chr
            char.match?(UNRESERVED) ? char : escape.upcase
          end
        end
      end
    end
  end
end
