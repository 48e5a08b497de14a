# frozen_string_literal: true

module Orvant
  module Checks
    module Tag
      # The base of checks on one page: what they share is how they show what they found.
      class TagCheck < Check
        asks :signature, :states

        private

        def report(tag, message, action:, evidence: subject.lines, **facts)
          finding(message,
            place: {"tag" => tag, "page" => subject.visit.page, "state" => subject.visit.state}.compact,
            evidence: evidence,
            root: "#{self.class.code} #{tag} #{subject.visit.path}",
            remedy: Remedy.new(action: action, at: "page", place: subject.visit.path),
            **facts)
        end

        def name(tag) = subject.name(tag)
      end
    end
  end
end
