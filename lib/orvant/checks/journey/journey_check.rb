# frozen_string_literal: true

module Orvant
  module Checks
    module Journey
      # The base of checks on a run: what they share is how they show what was heard.
      class JourneyCheck < Check
        private

        # Expectations of one tag and event belong together: one step wants the signal, a later reload wants no more of it.
        def wanted
          subject.expectations.group_by { |one| one.values_at("tag", "event") }
            .map { |(tag, event), ones| {tag: tag, event: event, times: ones.sum { |one| one["times"] }, step: ones.first["step"]} }
        end

        def lines(signals)
          signals.map { |signal| "step #{signal.step}, after #{(signal.at / 1000.0).round(1)} s: #{signal.request}" }
        end

        def report(message, step:, signals: [], **facts)
          finding(message, place: {"step" => step, "rehearsal" => subject.rehearsal}, evidence: lines(signals), root: "#{self.class.code} #{subject.rehearsal}", **facts)
        end
      end
    end
  end
end
