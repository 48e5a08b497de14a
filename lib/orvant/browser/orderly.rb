# frozen_string_literal: true

require "ferrum"

module Orvant
  module Browser
    # The driver's register of who listens is one hash for all tabs: whoever begins to listen while a page is
    # being closed trips over it.
    module Orderly
      LOCK = Monitor.new

      # Mends the driver, once.
      def self.mend = Ferrum::Client::Subscriber.prepend(self)

      def on(...) = LOCK.synchronize { super }

      def off(...) = LOCK.synchronize { super }

      def clear(...) = LOCK.synchronize { super }
    end
  end
end
