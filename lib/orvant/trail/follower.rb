# frozen_string_literal: true

require "async/barrier"

module Orvant
  class Trail
    # Follows links hop by hop, as a browser would, through the guarded door.
    class Follower
      # @param door [Net::Door]
      def initialize(door)
        @door = door
      end

      # @param text [String] an address as found
      # @return [Trail] always: what went wrong is its outcome and reason
      def follow(text) = Walk.new(@door, text).run

      # Follows many links at once, within the door's limits.
      #
      # @param texts [Enumerable<String>]
      # @yieldparam text [String]
      # @yieldparam trail [Trail] as soon as it is finished
      def follow_all(texts)
        Sync do
          barrier = Async::Barrier.new
          semaphore = Async::Semaphore.new(@door.limits.at_once, parent: barrier)
          texts.each { |text| semaphore.async { yield text, follow(text) } }
          barrier.wait
        ensure
          barrier&.stop
          @door.close
        end
      end
    end
  end
end
