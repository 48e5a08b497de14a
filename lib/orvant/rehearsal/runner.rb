# frozen_string_literal: true

module Orvant
  class Rehearsal
    # Plays a rehearsal in a sealed browser.
    class Runner
      # Steps after which nothing is waited for.
      RESTING = %w[fill choose tick date upload].freeze

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
        {"number" => step.number, "does" => step.to_s, "from" => from, "to" => visit.elapsed, "page" => visit.current_address, "error" => error, "only" => step.only || nil,
         "holds" => (held(visit, step) unless error || step.holds.empty?), "shown" => (shown(visit, step) unless error), "picture" => picture(visit, step)}.compact
      end

      # @return [Array<Hash>] what was looked for, with what was found
      def held(visit, step)
        step.holds.map do |one|
          kind = %w[field cookie storage].find { |name| one.key?(name) }
          value = one.fetch("value", true)
          wanted = value.is_a?(Hash) ? @landing[value["role"]] : value
          {"kind" => kind, "name" => one[kind], "role" => (value["role"] if value.is_a?(Hash)), "wanted" => wanted, "found" => visit.holding(kind, one[kind])}.compact
        end
      end

      # @return [Hash{String => String}, nil] by field of a signal, what the page shows of it
      def shown(visit, step)
        wanted = step.expectations.flat_map { |one| one.values.to_h.select { |_, said| said.is_a?(Hash) }.to_a }.uniq
        wanted.to_h { |field, said| [field, visit.text_of(said["shown"])] } if wanted.any?
      rescue Error::Unreachable
        nil # What is not shown cannot be compared; the values are then held against nothing.
      end

      def attempt(visit, step)
        visit.go_on
        visit.within(step.within) { act(visit, step) }
        visit.until_still unless RESTING.include?(step.does)
        nil
      rescue Error::Unreachable => error
        error.message
      rescue Ferrum::Error => error
        "The browser could not #{step}: #{error.message[0, 160]}"
      end

      def act(visit, step)
        case step.does
        when "open" then visit.open(address(step.target))
        when "fill", "choose", "date", "upload" then visit.public_send(step.does, step.target, step.with)
        when "reload", "back", "new_tab" then visit.public_send(step.does)
        when "accept", "refuse" then consent(visit, step.does)
        else visit.public_send(step.does, step.target)
        end
      end

      def address(target)
        target.is_a?(Hash) ? raise(Error::Unreachable, "The inventory has no link #{target["link"]}, or it is out no more: name another link, or an address.") : target
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
        Run.new(rehearsal: rehearsal.name, steps: steps, signals: signals,
          expectations: rehearsal.expectations.map(&:to_h), landing: @landing, refused: refused, held: held, trouble: trouble, har: har,
          roles: (@signatures.to_h { |one| [one.tag, one.roles] } if @signatures.any?))
      end
    end
  end
end
