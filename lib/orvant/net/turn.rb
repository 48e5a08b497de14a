# frozen_string_literal: true

module Orvant
  module Net
    # Keeps requests to one host to a number at once and a pause between their beginnings.
    class Turn
      # @param limits [Limits]
      # @param clock [#call] seconds, monotonic
      def initialize(limits, clock)
        @semaphore = Async::Semaphore.new(limits.per_host)
        @pause = limits.pause
        @clock = clock
        @free_at = 0
      end

      # Waits for its turn, then yields.
      def take
        @semaphore.acquire do
          wait if @pause.positive?
          yield
        end
      end

      private

      def wait
        now = @clock.call
        start = [@free_at, now].max
        @free_at = start + @pause
        sleep(start - now) if start > now
      end
    end
  end
end
