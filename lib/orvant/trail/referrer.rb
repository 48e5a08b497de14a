# frozen_string_literal: true

module Orvant
  class Trail
    # What a browser sends as the referrer of a navigation (W3C Referrer Policy, 8.3).
    module Referrer
      # Of a longer page only the origin is sent, in characters.
      LONGEST = 4_096

      class << self
        # @param from [Address] the page that sends its visitors on
        # @param to [Address]
        # @param policy [String, nil] of Page::ReferrerPolicy; nil where the page says none
        # @return [String, nil] nil where none is sent
        def of(from, to, policy)
          whole, origin = full(from), "#{from.scheme}://#{host(from)}/"
          whole = origin if whole.length > LONGEST
          same = origin == "#{to.scheme}://#{host(to)}/"
          down = from.scheme == "https" && to.scheme != "https"
          case policy
          when "unsafe-url" then whole
          when "origin" then origin
          when "strict-origin" then down ? nil : origin
          when "same-origin" then same ? whole : nil
          when "origin-when-cross-origin" then same ? whole : origin
          when "no-referrer-when-downgrade" then down ? nil : whole
          when "no-referrer" then nil
          else (same && whole) || (down ? nil : origin)
          end
        end

        private

        # Without fragment, name and password.
        def full(address)
          "#{address.scheme}://#{host(address)}#{address.path.empty? ? "/" : address.path}#{"?#{address.query}" if address.query}"
        end

        def host(address) = address.authority.sub(/\A.*@/m, "")
      end
    end
  end
end
