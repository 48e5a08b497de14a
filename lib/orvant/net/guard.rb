# frozen_string_literal: true

require "socket"

module Orvant
  module Net
    # The one policy for everything that Orvant requests, by its own engine or by the browser: no host that
    # charges for a click or may do so, no private network, no scheme but http and https. Names are resolved
    # here, and the caller connects to the very address that was checked.
    class Guard
      # Ports of other services, to which no browser opens a page (Fetch Standard, 2.9, bad ports).
      CLOSED_PORTS = Set[
        0, 1, 7, 9, 11, 13, 15, 17, 19, 20, 21, 22, 23, 25, 37, 42, 43, 53, 69, 77, 79, 87, 95, 101, 102, 103, 104, 109, 110, 111, 113, 115, 117, 119, 123, 135, 137, 139, 143, 161, 179,
        389, 427, 465, 512, 513, 514, 515, 526, 530, 531, 532, 540, 548, 554, 556, 563, 587, 601, 636, 989, 990, 993, 995, 1719, 1720, 1723, 2049, 3659, 4045, 4190, 5060, 5061, 6000,
        6566, 6665, 6666, 6667, 6668, 6669, 6679, 6697, 10_080
      ].freeze

      # @param port [Integer]
      # @return [String] why nothing is requested there
      def self.closed(port) = "Port #{port} belongs to another service; no browser opens a page there."

      # @param host_map [HostMap]
      # @param billed [Hosts, #cover?] hosts that charge for a click
      # @param may_charge [Hosts, #cover?] hosts in click addresses of ads of which nobody has said whether
      #   they charge
      # @param reach [Reach] what the host map may name that is not public
      # @param resolver [#call] host => Array<String> of IP addresses; raises SocketError
      def initialize(
        host_map: HostMap.new, billed: Hosts.new([]), may_charge: Hosts.new([]), reach: Reach.everything,
        resolver: method(:resolve)
      )
        @reach = reach
        @host_map = host_map
        @billed = billed
        @may_charge = may_charge
        @resolver = resolver
      end

      attr_reader :host_map

      # @param address [Address]
      # @return [Destination] where to connect
      # @raise [Error::Refused] where the policy forbids the request
      # @raise [Error::Unreachable] where the name does not resolve
      def permit(address)
        refuse_by_name(address)
        mapped = @host_map.find(address.host)
        raise Error::Unreachable, "The name #{address.host} does not resolve." if mapped == HostMap::NOWHERE

        return Destination.new(ip: public_ip(address.host), port: address.port) unless mapped
        return mapped if @reach.permit?(mapped)

        raise Error::Refused, HostMap.beyond(address.host, mapped)
      end

      # @param address [Address]
      # @return [Boolean]
      def billed?(address) = @billed.cover?(address.host)

      private

      def refuse_by_name(address)
        raise Error::Refused, self.class.closed(address.port) if CLOSED_PORTS.include?(address.port)
        unless Address::SCHEMES.include?(address.scheme.to_s.downcase)
          raise Error::Refused, "Only http and https are followed, not #{address.scheme}."
        end
        if billed?(address)
          raise Error::Refused, "#{address.host} charges for a click; Orvant never requests it."
        end
        if @may_charge.cover?(address.host)
          raise Error::Refused,
            "Not asked: may charge. #{address.host} stands in click addresses of ads, and nobody has said whether it charges for a click."
        end
      end

      def public_ip(host)
        ips = literal(host) || lookup(host)
        ips.each do |ip|
          special = IpRange.special(ip) or next
          raise Error::Refused,
            "#{host} is #{special} (#{ip}); links are not followed there unless the host map names the host."
        end
        ips.first
      end

      def literal(host)
        return [host.delete("[]")] if host.start_with?("[")

        number = IpRange.number_host(host)
        number && [number]
      rescue IPAddr::Error
        raise Error::Refused, "The host “#{host}” is no valid address."
      end

      def lookup(host)
        if host.chomp(".").match?(/(\A|\.)localhost\z/)
          raise Error::Refused, "#{host} is this machine; links are not followed there."
        end

        ips = @resolver.call(host)
        raise Error::Unreachable, "The name #{host} does not resolve." if ips.empty?

        ips
      rescue SocketError
        raise Error::Unreachable, "The name #{host} does not resolve."
      end

      def resolve(host)
        Addrinfo.getaddrinfo(host, nil, nil, :STREAM).map(&:ip_address).uniq
      end
    end
  end
end
