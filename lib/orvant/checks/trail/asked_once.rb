# frozen_string_literal: true

module Orvant
  module Checks
    module Trail
      # Finds links that work for their first visitor only.
      class AskedOnce < Check
        describes "trail/asked-once", weight: "untidy",
          why: "A link that works once cannot be tried without being used up; what it was handed out for, it may not do twice.",
          fails: ["again:410", "http://www.skerryline.example/voucher/7", "200"],
          passes: %w[http://www.skerryline.example/voucher/7 200]

        def findings
          again = subject.trail.seen.again
          return [] unless again && subject.own?

          page = subject.addresses.first.page
          [finding("#{page} was whole when it was asked first, and differs when it is asked again (#{again}): it seems to work for its first visitor only. The first answer counts.",
            place: {"hop" => 1, "server" => subject.addresses.first.host},
            evidence: subject.lines + ["asked again: #{again}"],
            root: "trail/asked-once #{page}",
            remedy: Remedy.new(
              action: "If more than one visitor is to come by #{page}, let it answer each of them; else leave it out of sweeps.",
              at: "page",
              place: page
            ))]
        end
      end
    end
  end
end
