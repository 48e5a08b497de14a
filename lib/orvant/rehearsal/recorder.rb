# frozen_string_literal: true

module Orvant
  class Rehearsal
    # A sealed page on which a person works by its picture: every act becomes a step, with what was heard in
    # it. A step is done as a rehearsal would do it, so that what was recorded can be played.
    class Recorder
      # step: its document · page: where it ended · heard: Array of tag, event, kind, times and values, each
      # of which can be expected · hidden: Array of field, value, and the role whose landing value it holds,
      # of hidden fields that took a value.
      Taken = Struct.new(:step, :page, :heard, :hidden, keyword_init: true) do
        def to_h = members.to_h { |name| [name.to_s, self[name]] }
      end

      # What a rehearsal can expect of a signal's values.
      SAID = %w[value currency order items].freeze
      # Steps of one recording, as a rehearsal may have.
      MOST_STEPS = 60
      # What one step has changed in storage, as far as it is offered.
      MOST_CHANGED = 20

      # @return [Array<Taken>] what was done
      attr_reader :taken
      # @return [String, nil] why the last act was none
      attr_reader :problem
      # @return [Browser::Pointing::Found, nil] a field that was pointed at and waits for its value
      attr_reader :asks

      # @param browser [Browser::Sealed]
      # @param convention [Convention]
      # @param watching [Watching]
      def initialize(browser, convention, watching: Watching.new)
        @browser = browser
        @convention = convention
        @watching = watching
        start
      end

      # Does one step.
      #
      # @param document [Hash] a step of a rehearsal
      # @param links [Hash{Integer => String}] addresses of the links that steps open
      # @return [Boolean] whether it could be done; `problem` says why not
      # @raise [Error::UnusableDocument]
      def take(document, links = {})
        @problem = @asks = nil
        return refuse("A rehearsal has at most #{MOST_STEPS} steps.") if @taken.size == MOST_STEPS

        step = Rehearsal.read(
          "rehearsal" => "recorded",
          "title" => "Recorded",
          "steps" => [document]
        ).with_links(links).steps.first
          .tap { |one| one.number = @taken.size + 1 }
        land(step)
        before = hidden
        done = @player.take(step)
        return refuse(done["error"]) if done["error"]

        @taken << Taken.new(
          step: document,
          page: done["page"],
          heard: heard(step.number),
          hidden: filled(before, hidden)
        )
        true
      end

      # Does what a click on the picture means: clicks what can be clicked, and asks for the value of a field.
      #
      # @param x [Numeric] pixels from the left
      # @param y [Numeric] pixels from the top
      # @return [Boolean] whether something was done
      def point(x, y)
        @problem = @asks = nil
        found = pointing.at(x, y) or return refuse("Nothing is there.")
        return (@asks = found) && false unless %w[click tick].include?(found.kind)

        take({found.kind => found.target, "within" => found.within}.compact)
      rescue Error::Unreachable, Ferrum::Error => error
        refuse(error.message[0, Cut::FAILURE])
      end

      # Shows another part of the page, which is no step.
      #
      # @param pixels [Integer] downwards
      def scroll(pixels)
        @session.visit.ask("(by) => window.scrollBy({top: by, behavior: 'instant'})", pixels)
      end

      # Begins again in a fresh page.
      #
      # @param documents [Array<Hash>] steps that are done there, up to the first that cannot be
      # @param links [Hash{Integer => String}]
      # @return [Boolean] whether all could be done
      def replay(documents, links = {})
        close
        start
        documents.all? { |document| take(document, links) }
      end

      # @return [Array<Browser::Pointing::Found>] what can be used on the page
      def useful = pointing.useful

      # @return [String] PNG of the view
      def view = @session.visit.view

      # @return [String] the address now shown
      def address = @session.visit.current_address

      # Ends it.
      def close = @browser.close(@session)

      private

      def start
        @session = @browser.start
        @session.visit.record
        @player = Player.new(@session.visit, watching: @watching)
        @taken = []
        @landing = nil
        @problem = @asks = nil
      end

      # The first page that is opened is the landing.
      def land(step)
        return unless step.does == "open" && step.target.is_a?(String) && @landing.nil?

        @landing = @convention.values_in(Address.new(step.target))
        @player = Player.new(@session.visit, watching: @watching, landing: @landing)
      end

      def refuse(why)
        @problem = why
        false
      end

      def pointing = Browser::Pointing.new(@session.visit)

      def heard(number)
        @session.visit.signals.select { |signal|
          signal.step == number &&
            !signal.unreadable?
        }.group_by { |signal| [signal.tag, signal.event] }.map do |(tag, event), same|
          {
            "tag" => tag,
            "event" => event,
            "kind" => same.first.kind,
            "times" => same.size,
            "values" => same.first.values.slice(*SAID).reject { |_, value| value.to_s.empty? }
          }
        end
      end

      def hidden
        pointing.hidden
      rescue Ferrum::Error
        {} # A page that is just going has none.
      end

      def filled(before, after)
        changed = after.reject { |name, value| value.empty? || before[name] == value }
        changed.first(MOST_CHANGED).map do |name, value|
          {"field" => name, "value" => value, "role" => @landing.to_h.key(value)}.compact
        end
      end
    end
  end
end
