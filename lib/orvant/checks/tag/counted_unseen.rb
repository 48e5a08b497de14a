# frozen_string_literal: true

module Orvant
  module Checks
    module Tag
      # Finds events that the analytics tool counts as conversions, and that no goal page and no rehearsal has
      # sent.
      class CountedUnseen < Check
        describes "tag/counted-unseen", weight: "untidy",
          why: "A conversion that is counted and never leaves is a goal that nobody can reach: it is misspelled in the settings, or its call is gone.",
          fails: {"counted" => ["Lead"], "heard" => ["lead"]}, passes: {"counted" => ["lead"], "heard" => ["lead"]}
        asks :counting, :goals

        # @param signals [Array<Signal>] of all pages and rehearsals
        # @param watching [Watching]
        # @param names [Hash{String => String}] of tags
        # @return [Array<Finding>] none where no conversion was played or opened at all
        def self.over(signals, watching, names)
          signals.none?(&:conversion?) ? [] : new([signals, watching, names]).findings
        end

        # @param example [Hash] counted, heard: events
        # @return [Array<Finding>]
        def self.sample(example)
          over(
            example["heard"].map { |event|
              Signal.new(
                tag: "gullwatch",
                event: event,
                kind: "conversion",
                values: {}
              )
            },
            Watching.new("counted_events" => example["counted"].map { |event|
              {"tag" => "gullwatch", "event" => event}
            }),
            {}
          )
        end

        def findings
          signals, watching, names = subject
          heard = signals.map { |signal| [signal.tag, signal.event] }.uniq
          (watching.counted - heard).map do |tag, event|
            near = heard.find { |other, name| other == tag && name.casecmp?(event) }&.last
            finding("“#{event}” of #{names.fetch(tag, tag)} is counted as a conversion, and no goal page and no rehearsal has sent it#{"; “#{near}” was heard" if near}.",
              place: {"tag" => tag, "event" => event},
              evidence: ["heard: #{heard.map { |other, name| name if other == tag }.compact.join(", ").then { |names| names.empty? ? "nothing" : names }}"],
              root: "tag/counted-unseen #{tag} #{event}",
              remedy: Remedy.new(
                action: "Count #{near ? "“#{near}”" : "an event that leaves"} in the settings of #{names.fetch(tag, tag)}, or bring “#{event}” back.",
                at: "settings",
                place: names.fetch(tag, tag)
              ))
          end
        end
      end
    end
  end
end
