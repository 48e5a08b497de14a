# frozen_string_literal: true

module Orvant
  module Checks
    module Tag
      # Finds conversions that leave from a page that is no goal, by opening it alone.
      class StrayConversion < TagCheck
        describes "tag/stray-conversion", weight: "breaks",
          why: "A conversion that leaves when somebody only looks at a page counts customers who do not exist, and teaches a network to look for more of them.",
          fails: {
            "markup" => ["gullwatch"],
            "signals" => ["view", "lead"],
            "watching" => {"goals" => [{
              "page" => "/thanks",
              "events" => [{"tag" => "gullwatch", "event" => "lead"}]
            }]}
          },
          passes: {
            "markup" => ["gullwatch"],
            "signals" => ["view", "lead"],
            "watching" => {"goals" => [{
              "page" => "/",
              "events" => [{"tag" => "gullwatch", "event" => "lead"}]
            }]}
          }
        asks :goals

        # Without goal pages nobody has said which pages are none.
        def findings
          return [] if subject.watching.goals.empty?

          permitted = subject.watching.goals_of(subject.visit.path).flat_map(&:events)
          stray = subject.visit.signals.select(&:conversion?)
            .reject { |signal| permitted.include?([signal.tag, signal.event]) }
          stray.group_by { |signal| [signal.tag, signal.event] }.map do |(tag, event), same|
            report(
              tag,
              "The conversion “#{event}” of #{name(tag)} left from this page when it was opened, and this page is no goal of it.",
              action: "Send “#{event}” from its goal page only.",
              evidence: subject.lines(same)
            ).tap do |one|
              one.root = "#{one.root} #{event}"
            end
          end
        end
      end
    end
  end
end
