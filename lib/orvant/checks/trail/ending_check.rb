# frozen_string_literal: true

module Orvant
  module Checks
    module Trail
      # The base of checks that find trails with one ending.
      class EndingCheck < Check
        def findings
          return [] unless concerned? && ending?

          [finding("#{subject.trail.reason} #{harm}",
            place: {"hop" => subject.trail.hops.size, "server" => subject.addresses.last.host},
            evidence: subject.lines, root: "#{self.class.code} #{root}",
            remedy: remedy)]
        end

        private

        def concerned? = subject.own?

        def harm = "Its visitors never arrive, so nothing they do is recorded."

        def root = subject.page

        # Where the last hop before the ending is a short link or click counter of ours, its target is the
        # thing to change.
        def remedy
          relay = subject.last_relay
          if relay
            return Remedy.new(
              action: "Give #{relay.page} a target that works; now it leads to #{subject.addresses.last}.",
              at: "server",
              place: relay.page
            )
          end

          Remedy.new(action: action, at: "page", place: subject.page)
        end
      end
    end
  end
end
