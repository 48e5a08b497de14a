# frozen_string_literal: true

module Orvant
  class Rehearsal
    # Plays a rehearsal in a sealed browser.
    class Runner
      # Refusals that are told of.
      MOST_REFUSED = 50

      # @param browser [Browser::Sealed]
      # @param convention [Convention]
      # @param pictures [String, nil] a folder for one PNG a step
      # @param signatures [Array<Signal::Signature>]
      # @param watching [Watching] says what is clicked for a yes and a no
      def initialize(browser, convention, pictures: nil, signatures: [], watching: Watching.new)
        @browser = browser
        @convention = convention
        @pictures = pictures
        @signatures = signatures
        @watching = watching
      end

      # @param rehearsal [Rehearsal]
      # @return [Run] always; a step that could not be done says why, and those after it are not tried
      def play(rehearsal)
        steps = []
        @landing = rehearsal.landing ? @convention.values_in(Address.new(rehearsal.landing)) : {}
        seen = @browser.visit do |visit|
          visit.record
          player = Player.new(visit, watching: @watching, landing: @landing, pictures: @pictures)
          rehearsal.steps.each do |step|
            steps << player.take(step)
            break if steps.last["error"]
          end
          trouble = visit.trouble
          visit.leave
          {
            signals: visit.signals.dup,
            refused: visit.refused.first(MOST_REFUSED),
            held: visit.held.first(Browser::PageVisit::MOST_HELD),
            trouble: trouble,
            har: visit.har
          }
        end
        run(rehearsal, steps, **seen)
      rescue Error::Unreachable => error
        run(rehearsal,
          steps << {"number" => steps.size + 1,
          "does" => "start the browser",
          "from" => 0,
          "to" => 0,
                                   "error" => error.message})
      end

      private

      def run(rehearsal, steps, signals: [], refused: [], held: [], trouble: nil, har: nil)
        Run.new(rehearsal: rehearsal.name, steps: steps, signals: signals,
          expectations: rehearsal.expectations.map(&:to_h),
          landing: @landing,
          refused: refused,
          held: held,
          trouble: trouble,
          har: har,
          handovers: @signatures.to_h { |one| [one.tag, one.handover] }.reject { |_, names| names.empty? },
          roles: (@signatures.to_h { |one| [one.tag, one.roles] } if @signatures.any?))
      end
    end
  end
end
