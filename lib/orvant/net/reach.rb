# frozen_string_literal: true

require "ipaddr"

module Orvant
  module Net
    # Which addresses that are not public host maps may name at all, as whoever runs the machine says: ranges,
    # each with ports or without, as `127.0.0.0/8, 10.1.0.0/16:80, [fd00::/8]:8000-8999`.
    class Reach
      PART = /\A(?:\[(?<six>[0-9a-f:.\/]+)\]|(?<range>[0-9a-f:.\/]+?))(?::(?<from>\d{1,5})(?:-(?<to>\d{1,5}))?)?\z/i
      ALL_PORTS = (1..65_535)

      # @param text [String]
      # @return [Reach]
      # @raise [Error::UnusableDocument] where something of it is no range
      def self.read(text)
        new(text.split(",").map(&:strip).reject(&:empty?).map { |part| range(part) })
      end

      def self.range(part)
        found = PART.match(part) or raise ArgumentError
        # Without brackets colons belong to the address.
        return [IPAddr.new(part), ALL_PORTS] if found[:range] && part.count(":") > 1

        ports = found[:from] ? (found[:from].to_i..(found[:to] || found[:from]).to_i) : ALL_PORTS
        [IPAddr.new(found[:six] || found[:range]), ports]
      rescue ArgumentError # IPAddr's own are some of these.
        raise Error::UnusableDocument, "“#{part[0, Cut::QUOTE]}” is no range of addresses; write it as 10.1.0.0/16 or 10.1.0.0/16:80-90."
      end
      private_class_method :range

      # @return [Reach] over everything, for who sits at the machine
      def self.everything = @everything ||= read("0.0.0.0/0, ::/0")

      # @param ranges [Array<Array(IPAddr, Range<Integer>)>]
      def initialize(ranges)
        @ranges = ranges
      end

      # @param destination [Destination]
      # @return [Boolean] whether a host map may name it
      def permit?(destination)
        return true unless IpRange.special(destination.ip)

        address = IPAddr.new(destination.ip).then { |one| one.ipv4_mapped? ? one.native : one }
        @ranges.any? { |range, ports|
          range.family == address.family && range.include?(address) && ports.cover?(destination.port)
        }
      rescue IPAddr::Error
        false
      end
    end
  end
end
