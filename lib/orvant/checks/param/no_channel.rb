# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Finds links whose source and medium, each sound by itself, reach no channel.
      class NoChannel < Check
        describes "param/no-channel", weight: "skews",
          why: "Where no channel rule takes a source and medium, the visits stand under “unassigned”.",
          fails: "utm_source=island-letter&utm_medium=sponsorship", passes: "utm_source=island-letter&utm_medium=email"
        reads :faults
        means :wrong_value

        def findings
          return [] unless judgeable?

          answer = subject.channel(subject.as_written)
          answer.unassigned? ? [report(answer)] : []
        end

        private

        # Silent where the medium has a finding of its own, and where the link says two things.
        def judgeable?
          mediums = subject.readings_of("medium")
          mediums.any? &&
            mediums.all?(&:sound?) &&
            (mediums + subject.readings_of("source")).none? { |reading| reading.tokens.templated? } &&
            agree?("source") &&
            agree?("medium")
        end

        def agree?(role) = subject.readings_of(role).map(&:value).uniq.size < 2

        def report(answer)
          medium = subject.readings_of("medium").first
          finding("No channel rule takes source “#{subject.as_written["source"]}” with medium “#{medium.value}”, so these visits are unassigned; #{answer.nearest || "no rule comes near"}.",
            parameter: medium.pair.name, place: {"role" => "medium", "pair" => subject.number_of(medium)},
            evidence: (subject.readings_of("source") + [medium]).map { |reading| reading.pair.raw },
            root: "param/no-channel #{subject.as_written["source"]} / #{medium.value}",
            remedy: Remedy.new(
              action: "Give source “#{subject.as_written["source"]}” with medium “#{medium.value}” a channel, or a medium that has one.",
              at: "convention",
              place: "Channel rules"
            ))
        end
      end
    end
  end
end
