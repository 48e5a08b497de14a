# frozen_string_literal: true

module Orvant
  class Trail
    # Follows links hop by hop through the guarded door, as a browser would that runs no scripts.
    class Follower
      # Seconds between two questions whether it is enough.
      EVERY = 0.3

      # @param door [Net::Door]
      def initialize(door)
        @door = door
      end

      # @param text [String] an address as found
      # @param visitor [Net::Visitor]
      # @return [Trail] always: what went wrong is its outcome and reason
      def follow(text, visitor: Net::Visitor::DESKTOP) = Walk.new(@door, text, visitor: visitor).run

      # Follows many links at once, within the door's limits.
      #
      # @param source [#call] gives the next item, nil at the end; an item's `to_s` is its address
      # @param visitors [Array<Net::Visitor>] each follows every link
      # @param at_once [Integer] how many
      # @param enough [#call, nil] asked again and again: whether what is under way is to be left
      # @yieldparam item [Object]
      # @yieldparam trails [Array<Trail>] one for each visitor, as soon as all are finished
      def follow_all(source, visitors: [Net::Visitor::DESKTOP], at_once: @door.limits.at_once, enough: nil)
        Sync do |task|
          walkers = Array.new(at_once) do
            task.async do
              while (item = source.call)
                yield item, visitors.map { |visitor| follow(item.to_s, visitor: visitor) }
              end
            end
          end
          watcher = task.async(transient: true) { stop(walkers, enough) } if enough
          walkers.each(&:wait)
        ensure
          watcher&.stop
          @door.close
        end
      end

      private

      def stop(walkers, enough)
        sleep EVERY until enough.call
        walkers.each(&:stop)
      end
    end
  end
end
