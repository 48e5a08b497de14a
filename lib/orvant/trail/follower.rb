# frozen_string_literal: true

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
      # @param source [#call] gives the next item, nil at the end; an item's `to_s` is its address
      # @yieldparam item [Object]
      # @yieldparam trail [Trail] as soon as it is finished
      def follow_all(source)
        Sync do |task|
          walkers = Array.new(@door.limits.at_once) do
            task.async do
              while (item = source.call)
                yield item, follow(item.to_s)
              end
            end
          end
          walkers.each(&:wait)
        ensure
          @door.close
        end
      end
    end
  end
end
