# frozen_string_literal: true

module Orvant
  class Rehearsal
    # Plays a rehearsal in a sealed browser.
    class Runner
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
        seen = @browser.visit do |visit|
          visit.record
          rehearsal.steps.each do |step|
            steps << take(visit, step)
            break if steps.last["error"]
          end
          trouble = visit.trouble
          visit.leave
          {signals: visit.signals.dup, refused: visit.refused.first(50), held: visit.held.first(Browser::PageVisit::MOST_HELD), trouble: trouble, har: visit.har}
        end
        run(rehearsal, steps, **seen)
      rescue Error::Unreachable => error
        run(rehearsal, steps << {"number" => steps.size + 1, "does" => "start the browser", "from" => 0, "to" => 0,
                                 "error" => error.message})
      end

      private

      def take(visit, step)
        visit.step = step.number
        from = visit.elapsed
        error = attempt(visit, step)
        visit.keep_documents
        {"number" => step.number, "does" => step.to_s, "from" => from, "to" => visit.elapsed,
         "page" => visit.current_address, "error" => error, "picture" => picture(visit, step)}.compact
      end

      def attempt(visit, step)
        visit.go_on
        case step.does
        when "fill", "choose" then visit.public_send(step.does, step.target, step.with)
        when "reload", "back" then visit.public_send(step.does)
        when "accept", "refuse" then consent(visit, step.does)
        else visit.public_send(step.does, step.target)
        end
        visit.until_still unless %w[fill choose tick].include?(step.does)
        nil
      rescue Error::Unreachable => error
        error.message
      rescue Ferrum::Error => error
        "The browser could not #{step}: #{error.message[0, 160]}"
      end

      def consent(visit, does)
        target = @watching.target((does == "accept") ? "yes" : "no") or raise Error::Unreachable, "The settings do not say what is clicked to #{does}."
        visit.click(target)
      end

      def picture(visit, step)
        return unless @pictures

        File.join(@pictures, "step-#{step.number}.png").then { |path| visit.picture(path) && File.basename(path) }
      rescue Ferrum::Error
        nil # A page that cannot be drawn has no picture; the step itself stands.
      end

      def run(rehearsal, steps, signals: [], refused: [], held: [], trouble: nil, har: nil)
        landing = rehearsal.landing ? @convention.values_in(Address.new(rehearsal.landing)) : {}
        Run.new(rehearsal: rehearsal.name, steps: steps, signals: signals,
          expectations: rehearsal.expectations.map(&:to_h), landing: landing, refused: refused, held: held, trouble: trouble, har: har,
          roles: (@signatures.to_h { |one| [one.tag, one.roles] } if @signatures.any?))
      end
    end
  end
end
