# frozen_string_literal: true

module Orvant
  module Checks
    module Tag
      # Finds events of a goal page that leave, but that the analytics tool does not count as conversions.
      class NotCounted < TagCheck
        COUNTED = {"goals" => [{
          "page" => "/",
          "events" => [{"tag" => "gullwatch", "event" => "lead"}]
        }]}.freeze
        describes "tag/not-counted", weight: "skews",
          why: "An event that leaves and is not counted is a conversion that no report shows: the settings of the analytics tool have to name it.",
          fails: {
            "markup" => ["gullwatch"],
            "signals" => ["view", "lead"],
            "watching" => COUNTED.merge("counted_events" => [{"tag" => "gullwatch", "event" => "Lead"}])
          },
          passes: {
            "markup" => ["gullwatch"],
            "signals" => ["view", "lead"],
            "watching" => COUNTED.merge("counted_events" => [{"tag" => "gullwatch", "event" => "lead"}])
          }
        asks :goals, :counting

        # @param run [Rehearsal::Run]
        # @param watching [Watching]
        # @param names [Hash{String => String}] of tags
        # @return [Array<Finding>] conversions that it expected and heard, and that are not counted
        def self.of_run(run, watching, names)
          return [] unless watching.counts?

          heard = run.score.met.flat_map(&:heard).select(&:conversion?)
            .reject { |signal| watching.counted?(signal.tag, signal.event) }
          heard.uniq { |signal| [signal.tag, signal.event] }
            .map { |signal| new([watching, names]).of_signal(signal, run) }
        end

        # @param signal [Signal] that a rehearsal heard
        # @param run [Rehearsal::Run]
        # @return [Finding]
        def of_signal(signal, run)
          watching, names = subject
          name = names.fetch(signal.tag, signal.tag)
          finding("“#{signal.event}” of #{name} leaves in step #{signal.step}, but is not among the events that are counted as conversions#{near(watching, signal.tag, signal.event)}.",
            place: {"tag" => signal.tag, "step" => signal.step, "rehearsal" => run.rehearsal},
            evidence: [signal.request],
            root: "tag/not-counted #{signal.tag} #{signal.event}",
            remedy: Remedy.new(
              action: "Count “#{signal.event}” as a conversion in the settings of #{name}.",
              at: "settings",
              place: name
            ))
        end

        def findings
          return [] unless subject.watching.counts?

          wanted = subject.watching.goals_of(subject.visit.path).flat_map(&:events).uniq
          wanted.select { |tag, event|
            subject.signals(tag).any? { |signal| signal.event == event } &&
              !subject.watching.counted?(tag, event)
          }.map do |tag, event|
            report(
              tag,
              "“#{event}” of #{name(tag)} leaves from this goal page, but is not among the events that are counted as conversions#{near(subject.watching, tag, event)}.",
              action: "Count “#{event}” as a conversion in the settings of #{name(tag)}."
            ).tap do |one|
              one.root = "tag/not-counted #{tag} #{event}"
            end
          end
        end

        private

        def near(watching, tag, event)
          written = watching.counted.find { |other, name| other == tag && name.casecmp?(event) }&.last
          ": there it is written “#{written}”" if written
        end
      end
    end
  end
end
