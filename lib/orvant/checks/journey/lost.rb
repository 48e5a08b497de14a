# frozen_string_literal: true

module Orvant
  module Checks
    module Journey
      # Finds conversions whose source, medium or campaign is not that of the landing.
      class Lost < JourneyCheck
        describes "journey/lost", weight: "breaks",
          why: "A conversion that has forgotten where its visit came from is credited to the wrong channel, or to none.",
          fails: {"signals" => [["lead", 2, {}]]}, passes: {"signals" => [["lead", 2]]}
        ACTION = "Hand the source of the visit on to this page: join the hosts in the settings of the tag."
        # Where the visit has never left its host there is nothing to join.
        KEPT_ACTION = "Keep the source of the visit until this page: something on the way forgets it, or sets it anew."

        def findings
          subject.signals.select(&:conversion?).filter_map do |signal|
            changed = subject.score.lost(signal)
            lost(signal, changed) if changed.any?
          end.uniq(&:root)
        end

        private

        def lost(signal, roles)
          pairs = roles.map { |role| "#{role} “#{subject.landing[role]}” became #{signal.values[role].to_s.empty? ? "nothing" : "“#{signal.values[role]}”"}" }
          report("The conversion “#{signal.event}” of #{signal.tag} does not carry what the landing brought: #{pairs.join(", ")}. It is credited to the wrong channel.", step: signal.step, signals: [signal], action: one_host?(signal) ? KEPT_ACTION : ACTION)
        end

        def one_host?(signal)
          landed = subject.steps.filter_map { |step| step["page"] }.first
          landed && signal.page && Address.new(landed).host == Address.new(signal.page).host
        end
      end
    end
  end
end
