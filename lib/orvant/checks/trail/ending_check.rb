# frozen_string_literal: true

module Orvant
  module Checks
    module Trail
      # The base of checks that find trails with one ending.
      class EndingCheck < Check
        def findings
          return [] unless subject.own? && ending?

          [finding("#{subject.trail.reason} #{harm}", place: {"hop" => subject.trail.hops.size, "server" => subject.addresses.last.host},
            evidence: subject.lines, root: "#{self.class.code} #{root}")]
        end

        private

        def harm = "Its visitors never arrive, so nothing they do is recorded."

        def root = subject.page
      end
    end
  end
end
