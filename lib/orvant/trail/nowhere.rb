# frozen_string_literal: true

module Orvant
  class Trail
    # Asks each host once what it says to an address that cannot exist.
    class Nowhere
      PATH = "/orvant-asks-for-a-page-that-does-not-exist"

      # @param hosts [Hosts] those that are asked; others are left in peace
      # @param follow [#call] address text => Trail
      def initialize(hosts, follow)
        @hosts = hosts
        @follow = follow
        @answers = {}
        @turns = Hash.new { |turns, authority| turns[authority] = Mutex.new }
      end

      # @param address [Address] on the host in question
      # @return [Trail, nil] nil for a host that is not asked
      def call(address)
        return unless @hosts.cover?(address.host)

        @turns[address.authority].synchronize do
          @answers[address.authority] ||= @follow.call("#{address.scheme}://#{address.authority}#{PATH}")
        end
      end
    end
  end
end
