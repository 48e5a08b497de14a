# frozen_string_literal: true

module Orvant
  module Checks
    module Tag
      # Finds tags that send where they must not for want of consent, or do not send though they may.
      class Consent < TagCheck
        RULES = {"consent" => {"yes" => "#yes", "tags" => [{"tag" => "gullwatch"}]}}.freeze
        describes "tag/consent", weight: "breaks",
          why: "What leaves before anybody has agreed is collected without right; what does not leave after a yes is lost without need.",
          fails: {
            "markup" => ["gullwatch"],
            "signals" => ["view"],
            "state" => "untouched",
            "watching" => RULES
          }, passes: {"markup" => ["gullwatch"], "signals" => ["view"], "state" => "yes", "watching" => RULES}
        looks_at :other_states
        asks :consent

        def findings
          state = subject.visit.state or return []
          subject.watching.consents.values.filter_map do |rule|
            (state == "yes") ? held_back(rule) : too_early(rule, state)
          end
        end

        private

        def too_early(rule, state)
          return if (state == "untouched") ? rule.untouched : rule.no

          sent = subject.signals(rule.tag).reject { |signal| rule.unless.include?(signal.values["consent"]) }
          if sent.any?
            report(
              rule.tag,
              "#{name(rule.tag)} sent #{Words.counted(sent.size, "request")} from this page #{Subject::STATES.fetch(state)}.",
              action: "Let #{name(rule.tag)} wait for a yes.",
              setting: "waits for no yes",
              evidence: subject.lines(sent)
            )
          end
        end

        def held_back(rule)
          unless rule.yes &&
              subject.in_markup?(rule.tag) &&
              subject.signals(rule.tag).empty? &&
              !subject.viewed_before?(rule.tag)
            return
          end

          report(
            rule.tag,
            "#{name(rule.tag)} stands on this page but sent nothing after a yes.",
            action: "Let #{name(rule.tag)} send once there is a yes.",
            setting: "is held back"
          )
        end
      end
    end
  end
end
