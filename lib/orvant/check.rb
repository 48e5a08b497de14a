# frozen_string_literal: true

module Orvant
  # The base of every check: one class, one file, in its family's folder. A check declares its code, its
  # weight, why it matters, an example that fails and one that passes (both are run by the specs and printed
  # in docs/checks.md), and answers `findings`.
  class Check
    class << self
      attr_reader :code, :weight, :why, :failing, :passing

      # What a finding of the check means for what reports record of the link: `:wrong_value` (a role's value
      # is not what it should be) or `:no_value` (a role does not arrive); `:absence` is of what may only have
      # come late, and is looked for twice.
      #
      # @return [Array<Symbol>]
      def traits = @traits || (superclass.respond_to?(:traits) ? superclass.traits : [])

      # @param names [Array<Symbol>] of traits
      def means(*names) = @traits = names

      # @param names [Array<Symbol>] the sides of its subject at which the check looks, where the family
      #   remembers verdicts by them
      def reads(*names) = @aspects = names

      # @return [Array<Symbol>] its own, and those of the checks that it derives from
      def aspects = [*(superclass.aspects if superclass.respond_to?(:aspects)), *@aspects].uniq

      # @param names [Array<Symbol>] the settings at which the check looks beside the rules (Question::PARTS):
      #   where one of them has changed, what was found before is no longer asked
      def asks(*names) = @asked = names

      # @return [Array<Symbol>] its own, and those of the checks that it derives from
      def asked = [*(superclass.asked if superclass.respond_to?(:asked)), *@asked].uniq

      # @param trait [Symbol]
      # @return [Array<String>] codes of the checks that have it
      def codes_with(trait)
        (@codes_with ||= {})[trait] ||= all.select { |check| check.traits.include?(trait) }.map(&:code).freeze
      end

      # @param code [String] stable: exports, links and configuration refer to it
      # @param weight [String] the usual weight; one that depends is given per finding
      # @param why [String] one sentence
      # @param fails [Object] an example subject as the family's `Sample` reads it, which must yield this code
      # @param passes [Object] an example subject, which must not
      def describes(code, weight:, why:, fails:, passes:)
        @code = code
        @weight = weight
        @why = why
        @failing = fails
        @passing = passes
      end

      # @param family [String] `param`, `trail`, `tag`, `journey`, `traffic`
      # @return [Array<Class>] the family's checks, in the order of their codes
      def family(family)
        all.select { |check| check.code.start_with?("#{family}/") }
      end

      # @return [Array<Class>] every check there is
      def all
        @all ||= begin
          Orvant.loader.eager_load_namespace(Checks)
          descendants.select(&:code).sort_by(&:code)
        end
      end

      # @param subject [Object] what the family judges
      # @return [Boolean] false where it is plain at a glance that there is nothing to find
      def concerns?(_subject) = true

      # @return [Array<Class>] classes that derive from this one
      def descendants
        subclasses.flat_map { |check| [check, *check.descendants] }
      end
    end

    # @param subject [Object] what the family judges
    def initialize(subject)
      @subject = subject
    end

    # @return [Array<Finding>]
    def findings
      raise NotImplementedError, "#{self.class} answers no findings"
    end

    private

    attr_reader :subject

    def finding(message, **facts)
      Finding.new(
        code: self.class.code,
        weight: self.class.weight,
        message: message,
        evidence: [],
        place: {},
        **facts
      )
    end
  end
end
