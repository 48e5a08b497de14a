# frozen_string_literal: true

module Orvant
  module Net
    # Says where chosen host names really are, as a hosts file does. Being named here is the permission for a
    # host that stands on this machine or in a private network.
    class HostMap
      # The answer for a name that is mapped to nothing.
      NOWHERE = :nowhere

      # @param source [String, Hash] the document (docs/schemas/hosts.schema.json)
      # @return [HostMap]
      # @raise [Error::UnusableDocument]
      def self.read(source) = new(Document.read(source, schema: :hosts))

      # @param host [String]
      # @param target [Destination]
      # @return [String] why it is not asked there
      def self.beyond(host, target)
        "#{host} is mapped to #{target.ip}:#{target.port}, which this Orvant does not ask. Whoever runs it says with ORVANT_REACH what host maps may name in its own network."
      end

      attr_reader :document

      # @param document [Hash{String => String, nil}]
      def initialize(document = {})
        @document = document
        @hosts = Hosts.new(document.keys)
        @targets = document.to_h { |name, target|
          [Address::HostName.normal(name), target ? destination(target) : NOWHERE]
        }
      end

      # @param host [String]
      # @return [Destination, Symbol, nil] NOWHERE for a name that does not resolve, nil for one that the map
      #   leaves alone
      def find(host)
        entry = @hosts.match(host)
        entry && @targets.fetch(entry)
      end

      # @param reach [Reach]
      # @return [HostMap] this one
      # @raise [Error::UnusableDocument] where it names what must not be asked
      def within(reach)
        @targets.each do |name, target|
          next if target == NOWHERE || reach.permit?(target)

          raise Error::UnusableDocument, self.class.beyond(name, target)
        end
        self
      end

      private

      def destination(target)
        ip, _, port = target.rpartition(":")
        Destination.new(ip: ip.delete("[]"), port: port.to_i)
      end
    end
  end
end
