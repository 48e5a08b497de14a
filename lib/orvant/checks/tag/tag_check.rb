# frozen_string_literal: true

module Orvant
  module Checks
    module Tag
      # The base of checks on one page: what they share is how they show what they found.
      class TagCheck < Check
        asks :signature, :states

        class << self
          # @param places [Array<Symbol>] where else it looks than at pages in the state of consent that
          #   counts: `:goal_pages` to which rehearsals came, `:other_states` of consent
          def looks_at(*places) = @places = places

          # @param place [Symbol]
          # @return [Array<Class>] the checks that look there
          def at(place) = Check.family("tag").select { |check| check < self && check.places.include?(place) }

          # @return [Array<Symbol>]
          def places = @places.to_a
        end

        private

        # @param setting [String, nil] what is set once for all pages on which it is wrong: one piece of work,
        #   with all its pages
        def report(tag, message, action:, evidence: subject.lines, setting: nil, **facts)
          page = subject.visit.page
          finding(message,
            place: {"tag" => tag, "page" => page, "state" => subject.visit.state}.compact,
            evidence: evidence,
            root: "#{self.class.code} #{tag} #{setting || page}",
            remedy: Remedy.new(action: action, at: "page", place: (page unless setting)),
            **facts)
        end

        def name(tag) = subject.name(tag)
      end
    end
  end
end
