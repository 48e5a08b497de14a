# frozen_string_literal: true

require "http/cookie_jar"
require "public_suffix"

module Orvant
  class Trail
    # The cookies of one visitor on one trail, as browsers keep and send them (RFC 6265bis): the library keeps
    # those that RFC 6265 knows, and what came since is decided here.
    class Cookies
      # So many are taken of one answer, as browsers keep of one host.
      MOST = 180

      # There is a jar once there is a cookie: most trails set none.
      def initialize
        @strict = Set.new
        @nameless = {}
      end

      # @param address [Address] that was requested
      # @param texts [Array<String>] `Set-Cookie` headers
      def take(address, texts) = texts.first(MOST).each { |text| keep(address, text) }

      # @param address [Address] that is to be requested
      # @param from [Address, nil] the page of another site or of the same that leads there, nil where nobody
      #   does
      # @return [String] the header's value, "" where none is sent
      def for(address, from: nil)
        return "" unless @jar

        kept = @jar.cookies(plain(address))
        unless from.nil? || same_site?(from, address)
          kept = kept.reject { |one| @strict.include?([one.name, one.domain]) }
        end
        [HTTP::Cookie.cookie_value(kept), @nameless[address.host]].compact.reject(&:empty?).join("; ")
      rescue ArgumentError, URI::Error
        ""
      end

      private

      def keep(address, text)
        @jar ||= HTTP::CookieJar.new
        pair, *attributes = text.split(";").map(&:strip)
        attributes = attributes.to_h do |one|
          one.split("=", 2).then { |name, value| [name.to_s.downcase.strip, value.to_s.strip] }
        end
        return unless permitted?(address, pair.to_s, attributes)

        name, equals, value = pair.to_s.partition("=")
        return name_none(address, [name, value].join) if equals.empty? || name.strip.empty?

        @jar.parse(text, plain(address)).each { |one| note(one, attributes) }
      rescue ArgumentError, URI::Error, HTTP::Cookie::ParseError
        nil # A cookie that cannot be read is not kept, as in a browser.
      end

      def name_none(address, value) = (@nameless[address.host] = value unless value.empty?)

      # RFC 6265bis, 5.7: what must be secure is kept from secure answers alone.
      def permitted?(address, pair, attributes)
        secure = attributes.key?("secure")
        return false if secure && address.scheme != "https"
        return false if attributes["samesite"].to_s.casecmp?("none") && !secure
        return secure && attributes["path"] == "/" && !attributes.key?("domain") if pair.match?(/\A__Host-/i)

        secure || !pair.match?(/\A__Secure-/i)
      end

      def note(cookie, attributes)
        key = [cookie.name, cookie.domain]
        attributes["samesite"].to_s.casecmp?("strict") ? @strict.add(key) : @strict.delete(key)
      end

      # Host and path are all that cookies go by (RFC 6265, 5.1); the library takes no stray percent signs.
      def plain(address)
        "#{address.scheme}://#{address.authority}#{address.path.gsub(/%(?![0-9a-f]{2})/i, "%25")}"
      end

      def same_site?(one, other) = one.scheme == other.scheme && site(one.host) == site(other.host)

      def site(host) = PublicSuffix.domain(host, ignore_private: false) || host
    end
  end
end
