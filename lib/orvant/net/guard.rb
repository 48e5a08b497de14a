# frozen_string_literal: true

require "socket"

module Orvant
  module Net
    # The one policy for everything that Orvant requests, by its own engine or by the browser: no billed host, no private network, no
    # scheme but http and https. Names are resolved here, and the caller connects to the very address that was checked.
    class Guard
      # @param host_map [HostMap]
      # @param billed [Hosts] hosts that charge for a click
      # @param resolver [#call] host => Array<String> of IP addresses; raises SocketError
      def initialize(host_map: HostMap.new, billed: Hosts.new([]), resolver: method(:resolve))
        @host_map = host_map
        @billed = billed
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

        mapped || Destination.new(ip: public_ip(address.host), port: address.port)
      end

      # @param address [Address]
      # @return [Boolean]
      def billed?(address) = @billed.cover?(address.host)

      private

      def refuse_by_name(address)
        raise Error::Refused, "Only http and https are followed, not #{address.scheme}." unless Address::SCHEMES.include?(address.scheme.to_s.downcase)
        raise Error::Refused, "#{address.host} charges for a click; Orvant never requests it." if billed?(address)
      end

      def public_ip(host)
        ips = literal(host) || lookup(host)
        ips.each do |ip|
          special = IpRange.special(ip) or next
          raise Error::Refused, "#{host} is #{special} (#{ip}); links are not followed there unless the host map names the host."
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
        raise Error::Refused, "#{host} is this machine; links are not followed there." if host.chomp(".").match?(/(\A|\.)localhost\z/)

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
