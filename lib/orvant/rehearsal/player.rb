# frozen_string_literal: true

module Orvant
  class Rehearsal
    # Does the steps of a rehearsal in a visit, as a person would.
    class Player
      # Steps after which nothing is waited for.
      RESTING = %w[fill choose tick date upload].freeze

      # @param visit [Browser::Visit] that is recorded
      # @param watching [Watching] says what is clicked for a yes and a no
      # @param landing [Hash{String => String}] values of the roles at the landing
      # @param pictures [String, nil] a folder for one PNG a step
      def initialize(visit, watching:, landing: {}, pictures: nil)
        @visit = visit
        @watching = watching
        @landing = landing
        @pictures = pictures
      end

      # @param step [Step]
      # @return [Hash{String => Object}] what became of it: number, does, from and to in ms, page, error where
      #   it could not be done, what it was to hold, what the page shows of expected values, the file of its
      #   picture
      def take(step)
        @visit.step = step.number
        from = @visit.elapsed
        error = attempt(step)
        @visit.keep_documents
        {"number" => step.number,
         "does" => step.to_s,
         "from" => from,
         "to" => @visit.elapsed,
         "page" => @visit.current_address,
         "error" => error,
         "only" => step.only || nil,
         "holds" => (held(step) unless error || step.holds.empty?),
         "shown" => (shown(step) unless error),
         "picture" => picture(step)}.compact
      end

      private

      # @return [Array<Hash>] what was looked for, with what was found
      def held(step)
        step.holds.map do |one|
          kind = %w[field cookie storage].find { |name| one.key?(name) }
          value = one.fetch("value", true)
          wanted = value.is_a?(Hash) ? @landing[value["role"]] : value
          {
            "kind" => kind,
            "name" => one[kind],
            "role" => (value["role"] if value.is_a?(Hash)),
            "wanted" => wanted,
            "found" => @visit.holding(kind, one[kind])
          }.compact
        end
      end

      # @return [Hash{String => String}, nil] by field of a signal, what the page shows of it
      def shown(step)
        wanted = step.expectations.flat_map { |one|
          one.values.to_h.select { |_, said| said.is_a?(Hash) }.to_a
        }.uniq
        wanted.to_h { |field, said| [field, @visit.text_of(said["shown"])] } if wanted.any?
      rescue Error::Unreachable
        nil # What is not shown cannot be compared; the values are then held against nothing.
      end

      def attempt(step)
        @visit.go_on
        @visit.within(step.within) { act(step) }
        @visit.until_still unless RESTING.include?(step.does)
        nil
      rescue Error::Unreachable => error
        error.message
      rescue Ferrum::Error => error
        "The browser could not #{step}: #{error.message[0, Cut::FAILURE]}"
      end

      def act(step)
        case step.does
        when "open" then @visit.open(address(step.target))
        when "fill", "choose", "date", "upload" then @visit.public_send(step.does, step.target, step.with)
        when "reload", "back", "new_tab" then @visit.public_send(step.does)
        when "accept", "refuse" then consent(step.does)
        else @visit.public_send(step.does, step.target)
        end
      end

      def address(target)
        if target.is_a?(Hash)
          raise(
            Error::Unreachable,
            "The inventory has no link #{target["link"]}, or it is out no more: name another link, or an address."
          )
        else
          target
        end
      end

      def consent(does)
        target = @watching.target((does == "accept") ? "yes" : "no") or raise Error::Unreachable, "The settings do not say what is clicked to #{does}."
        @visit.click(target)
      end

      def picture(step)
        return unless @pictures

        File.join(@pictures, "step-#{step.number}.png")
          .then { |path| @visit.picture(path) && File.basename(path) }
      rescue Ferrum::Error
        nil # A page that cannot be drawn has no picture; the step itself stands.
      end
    end
  end
end
