# frozen_string_literal: true

module Orvant
  class Address
    # Says in a sentence why a text cannot be a link, before anything is done with it.
    module Unusable
      HOST = /\A(?:\[[0-9a-f:.]+\]|[^\s\[\]<>"`{}|\\^%:]+)\z/i

      # How displays end what is too long for them.
      CUT = "…".b.freeze

      class << self
        # @param text [String] stripped
        # @return [String, nil] the reason; nil for a text that may be an address
        def text_reason(text)
          return "The address is empty." if text.empty?
          if text.length > MAX_LENGTH
            return "The address is #{text.length} characters long; #{MAX_LENGTH} are the most that can be followed."
          end
          return "The address is not readable text (UTF-8)." unless text.valid_encoding?
          if text.b.end_with?(CUT)
            return "The address is cut off: it ends with “…”. Take it from the link itself."
          end

          "The address holds a line break or another control character." if text.match?(/[[:cntrl:]]/)
        end

        # @param address [Address] of such a text
        # @return [String, nil] the reason; nil for a usable address
        def parts_reason(address)
          unless SCHEMES.include?(address.scheme.to_s.downcase) && address.authority
            return "The address does not begin with http:// or https://."
          end
          return "The address names no host." if address.host.empty?
          return "The host “#{address.host[0, Cut::QUOTE]}” cannot be the name of a server." unless host?(address)

          "The port is not between 1 and 65535." unless address.port.between?(1, 65_535)
        end

        private

        # Browsers read escapes in a host as what they stand for.
        def host?(address)
          written = address.written_host
          written.match?(HOST) || (written.include?("%") && address.host.match?(HOST))
        end
      end
    end
  end
end
