# frozen_string_literal: true

require "concurrent"
require "ferrum"
require "securerandom"

module Orvant
  module Browser
    # The driver's register of who listens is one hash for all tabs: whoever begins to listen while a page is
    # being closed trips over it. And it hands on what the browser says in a thread of its own, later than
    # the answers to commands.
    module Orderly
      LOCK = Monitor.new

      # Mends the driver, once.
      def self.mend = Ferrum::Client::Subscriber.prepend(self)

      # @param client [Ferrum::Client]
      # @param patience [Float] seconds
      # @return [Boolean] whether all that had come by now has been handed on within the patience
      def self.caught_up?(client, patience)
        mark = "Orvant.mark#{SecureRandom.hex(8)}"
        handed_on = Concurrent::Event.new
        client.on(mark) { handed_on.set }
        client.subscriber << {"method" => mark}
        handed_on.wait(patience)
      ensure
        client.subscriber.clear(session_id: mark)
      end

      def on(...) = LOCK.synchronize { super }

      def off(...) = LOCK.synchronize { super }

      def clear(...) = LOCK.synchronize { super }
    end
  end
end
