# frozen_string_literal: true

module Orvant
  module Net
    # Keeps requests to one host to a number at once and a pause between their beginnings, and holds all of
    # them back while the host asks for patience.
    class Turn
      # @param limits [Limits]
      # @param clock [#call] seconds, monotonic
      # @param rest [#call] waits the given seconds
      def initialize(limits, clock, rest = method(:sleep))
        @semaphore = Async::Semaphore.new(limits.per_host)
        @pause = limits.pause
        @clock = clock
        @rest = rest
        @free_at = 0
      end

      # Waits for its turn, then yields.
      def take
        @semaphore.acquire do
          wait
          yield
        end
      end

      # Lets nobody begin for a while.
      #
      # @param seconds [Numeric]
      def hold(seconds)
        @free_at = [@free_at, @clock.call + seconds].max
      end

      private

      def wait
        now = @clock.call
        start = [@free_at, now].max
        @free_at = start + @pause if @pause.positive?
        @rest.call(start - now) if start > now
      end
    end
  end
end
