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
          end.uniq(&:root) + visitors + holdings
        end

        private

        def visitors
          subject.score.visitors_lost.first(1).map do |before, after|
            from, to = [before, after].map { |signal| Address.new(signal.page.to_s) }
            report("The visitor “#{before.values["visitor"][0, Cut::QUOTE]}” of #{before.tag} on #{from.host} is “#{after.values["visitor"][0, Cut::QUOTE]}” on #{to.host}: one visit became two, and the second forgets where the first came from. #{handed(before.tag, to)}",
              step: after.step, signals: [before, after]).tap { |one| one.root = "#{one.root} visitor" }
          end
        end

        # What should have carried the visitor over.
        def handed(tag, to)
          names = subject.handover_of(tag)
          return "No parameter of #{to.page} and no cookie of both hosts handed it on." if names.empty?

          there = to.pairs.find { |pair| names.include?(pair.name) && !pair.value.to_s.empty? }
          unless there
            return "The parameter “#{names.first}”, which hands it on, does not stand in the address of #{to.page}."
          end

          "The parameter “#{there.name}” stands in the address of #{to.page} with “#{there.value[0, Cut::QUOTE]}”, and was not taken there."
        end

        def holdings
          subject.score.holding_otherwise.select { |one| one.role && one.kind != "field" }.map do |one|
            report(
              "#{(one.kind == "cookie") ? "The cookie" : "What is stored as"} “#{one.name}” holds #{one.found.to_s.empty? ? "nothing" : "“#{one.found[0, Cut::QUOTE]}”"} in step #{one.step} where the landing says #{one.role} “#{one.wanted}”.",
              step: one.step,
              action: KEPT_ACTION
            ).tap do |found|
              found.root = "#{found.root} #{one.name}"
            end
          end
        end

        def lost(signal, roles)
          pairs = roles.map do |role|
            "#{role} “#{subject.landing[role]}” became #{signal.values[role].to_s.empty? ? "nothing" : "“#{signal.values[role]}”"}"
          end
          report(
            "The conversion “#{signal.event}” of #{signal.tag} does not carry what the landing brought: #{pairs.join(", ")}. It is credited to the wrong channel.",
            step: signal.step,
            signals: [signal],
            action: one_host?(signal) ? KEPT_ACTION : ACTION
          )
        end

        def one_host?(signal)
          landed = subject.steps.filter_map { |step| step["page"] }.first
          landed && signal.page && Address.new(landed).host == Address.new(signal.page).host
        end
      end
    end
  end
end
