# frozen_string_literal: true

module Orvant
  class Trail
    # Asks each host once what it says to an address that cannot exist, and, where that is to be known, at its
    # home page.
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
      def call(address) = ask(address, PATH)

      # @param address [Address] on the host in question
      # @return [Trail, nil] its home page; nil for a host that is not asked
      def home(address) = ask(address, "/")

      private

      def ask(address, path)
        return unless @hosts.cover?(address.host)

        place = "#{address.authority}#{path}"
        @turns[place].synchronize { @answers[place] ||= @follow.call("#{address.scheme}://#{place}") }
      end
    end
  end
end
