# frozen_string_literal: true

require "ipaddr"

module Orvant
  module Net
    # Tells public addresses from those that no link may lead to (IANA special-purpose registries, RFC 6890).
    module IpRange
      SPECIAL = {
        "0.0.0.0/8" => "this network",
        "10.0.0.0/8" => "a private network",
        "100.64.0.0/10" => "a carrier's private network",
        "127.0.0.0/8" => "this machine",
        "169.254.0.0/16" => "a link-local address",
        "172.16.0.0/12" => "a private network",
        "192.0.0.0/24" => "a reserved range", "192.0.2.0/24" => "a documentation range",
        "192.88.99.0/24" => "a reserved range",
        "192.168.0.0/16" => "a private network", "198.18.0.0/15" => "a test range",
        "198.51.100.0/24" => "a documentation range",
        "203.0.113.0/24" => "a documentation range", "224.0.0.0/4" => "a multicast address",
        "240.0.0.0/4" => "a reserved range",
        "::/128" => "this network", "::1/128" => "this machine", "64:ff9b::/96" => "a translated address",
        "64:ff9b:1::/48" => "a translated address",
        "100::/64" => "a discard range",
        "2001::/23" => "a reserved range",
        "2001:db8::/32" => "a documentation range",
        "2002::/16" => "a translated address",
        "fc00::/7" => "a private network",
        "fe80::/10" => "a link-local address",
        "fec0::/10" => "a private network",
        "ff00::/8" => "a multicast address",
        "3fff::/20" => "a documentation range",
        "::ffff:0:0:0/96" => "a translated address",
        # Nothing but 2000::/3 is given out (RFC 4291, 2.4).
        "::/3" => "a reserved range", "4000::/2" => "a reserved range", "8000::/1" => "a reserved range"
      }.to_h { |range, name| [IPAddr.new(range), name] }.freeze

      class << self
        # @param ip [String] an IPv4 or IPv6 address
        # @return [String, nil] what kind of special address it is; nil for a public one
        def special(ip)
          address = IPAddr.new(ip.sub(/%.*\z/, ""))
          address = address.native if address.ipv4_mapped? || address.ipv4_compat?
          SPECIAL.find { |range, _| range.family == address.family && range.include?(address) }&.last
        end

        # Browsers read hosts such as `2130706433`, `0x7f.1` or `0177.0.0.1` as IPv4 addresses (WHATWG URL,
        # 3.5).
        #
        # @param host [String]
        # @return [String, nil] dotted decimal where the host is a number in any spelling; nil for a name
        # @raise [Error::Refused] for a host that ends in a number but is no address
        def number_host(host)
          parts = host.chomp(".").split(".", -1)
          return unless parts.last&.match?(/\A(\d+|0x[0-9a-f]*)\z/i)

          values = parts.map { |part| number(part) }
          raise Error::Refused, "The host “#{host}” is no valid address." unless valid?(values)

          last = values.pop
          IPAddr.new(
            values.each_with_index.sum { |value, index| value << (8 * (3 - index)) } + last,
            Socket::AF_INET
          ).to_s
        end

        private

        def number(part)
          return part[2..].to_i(16) if part.match?(/\A0x[0-9a-f]*\z/i)
          return part.to_i(8) if part.match?(/\A0[0-7]+\z/)

          part.match?(/\A\d+\z/) ? part.to_i : nil
        end

        def valid?(values)
          return false if values.any?(&:nil?) || values.size > 4

          values[0...-1].all? { |value| value <= 255 } && values.last < 256**(5 - values.size)
        end
      end
    end
  end
end
