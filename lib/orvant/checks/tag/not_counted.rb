# frozen_string_literal: true

module Orvant
  module Checks
    module Tag
      # Finds events of a goal page that leave, but that the analytics tool does not count as conversions.
      class NotCounted < TagCheck
        COUNTED = {"goals" => [{"page" => "/", "events" => [{"tag" => "gullwatch", "event" => "lead"}]}]}.freeze
        describes "tag/not-counted", weight: "skews",
          why: "An event that leaves and is not counted is a conversion that no report shows: the settings of the analytics tool have to name it.",
          fails: {"markup" => ["gullwatch"], "signals" => ["view", "lead"], "watching" => COUNTED.merge("counted_events" => [{"tag" => "gullwatch", "event" => "Lead"}])},
          passes: {"markup" => ["gullwatch"], "signals" => ["view", "lead"], "watching" => COUNTED.merge("counted_events" => [{"tag" => "gullwatch", "event" => "lead"}])}

        def findings
          return [] unless subject.watching.counts?

          wanted = subject.watching.goals_of(subject.visit.path).flat_map(&:events).uniq
          wanted.select { |tag, event| subject.signals(tag).any? { |signal| signal.event == event } && !subject.watching.counted?(tag, event) }.map do |tag, event|
            near = subject.watching.counted.find { |other, name| other == tag && name.casecmp?(event) }&.last
            report(tag, "“#{event}” of #{name(tag)} leaves from this goal page, but is not among the events that are counted as conversions#{": there it is written “#{near}”" if near}.", action: "Count “#{event}” as a conversion in the settings of #{name(tag)}.").tap { |one| one.root = "tag/not-counted #{tag} #{event}" }
          end
        end
      end
    end
  end
end
