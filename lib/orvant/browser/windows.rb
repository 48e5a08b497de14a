# frozen_string_literal: true

module Orvant
  module Browser
    # Which frames are windows of their own, as the browser says: what it has told already, and where it has
    # not, asked. How fast a window comes or goes decides nothing.
    class Windows
      # How long the browser may take to say so, in seconds.
      ANSWER = 5.0
      # Windows that are remembered, also when they have gone: what they have asked for may come by later.
      MOST = 20_000

      def initialize
        @known = {}
        @lock = Mutex.new
      end

      # @param client [Ferrum::Client] of the browser's own session
      def listen(client)
        @client = client
        client.on("Target.targetCreated") do |event|
          remember(event.dig("targetInfo", "targetId")) if event.dig("targetInfo", "type") == "page"
        end
      end

      # @param frame [String] the browser's id
      # @return [Boolean] whether it is the outermost frame of a window; also where nobody can tell
      def key?(frame) = known?(frame) || target?(frame) || !caught_up? || known?(frame)

      # @return [Boolean] whether all that the browser has said until now has been heard
      def caught_up? = Orderly.caught_up?(@client, ANSWER)

      private

      def known?(frame) = @lock.synchronize { @known.key?(frame) }

      def remember(frame)
        @lock.synchronize do
          @known[frame] = true
          @known.shift if @known.size > MOST
        end
      end

      # Windows are targets, the frames within them are not.
      def target?(frame)
        @client.command("Target.getTargetInfo", targetId: frame, timeout: ANSWER)
        true
      rescue Ferrum::TimeoutError
        true
      rescue Ferrum::BrowserError, Ferrum::NoSuchPageError
        false
      end
    end
  end
end
