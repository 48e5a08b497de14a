# frozen_string_literal: true

module Orvant
  module Checks
    module Journey
      # The base of checks on a run: what they share is how they show what was heard.
      class JourneyCheck < Check
        asks :rehearsal, :signatures

        private

        # The page on which a step ended, without its parameters: where the work is.
        def page_of(number)
          page = subject.steps.find { |step| step["number"] == number }&.fetch("page", nil)
          page ? Address.new(page).page : subject.rehearsal
        end

        def lines(signals)
          signals.map do |signal|
            "step #{signal.step}, after #{(signal.at / 1000.0).round(1)} s: #{signal.request}"
          end
        end

        # @param signals [Array<Signal>] that show it
        # @param seen [Array<String>] what shows it where no signal does
        def report(message, step:, signals: [], seen: [], action: self.class::ACTION, **facts)
          finding(message,
            place: {"step" => step, "rehearsal" => subject.rehearsal},
            evidence: lines(signals) + seen,
            root: "#{self.class.code} #{subject.rehearsal}",
            remedy: Remedy.new(action: action, at: "page", place: page_of(step)), **facts)
        end
      end
    end
  end
end
