# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Checks that judge links together, and what their verdicts are remembered by.
      class Panel
        NOTHING = [].freeze
        @count = 0

        class << self
          # @return [Panel] of all checks of the family that look at one link
          def usual = @usual ||= new(Check.family("param").reject { |check| check < SetCheck })

          # @return [Integer] the same for no two panels
          def next_number = @count += 1
        end

        attr_reader :checks

        # @param checks [Array<Class>]
        def initialize(checks)
          @checks = checks
          @number = Panel.next_number
          @views = checks.to_h { |check| [check, View.showing(check.aspects)] }
          @beside = resting(checks.flat_map(&:aspects).uniq).filter_map { |name| Aspect.of(name).side }
        end

        # @param check [Class]
        # @return [Panel] the others
        def without(check) = (@without ||= {})[check] ||= Panel.new(checks - [check])

        # @param link [LinkSubject]
        # @return [Array<Finding>]
        def findings(link)
          @views.flat_map do |check, view|
            seen = view.new(link)
            check.concerns?(seen) ? check.new(seen).findings : NOTHING
          end
        end

        # @param link [LinkSubject]
        # @return [Array] all that its checks have declared to look at: the same for two links only where that
        #   is
        def key(link) = key_of(link.faults, beside(link))

        # @param link [LinkSubject]
        # @return [Array] the same without what is wrong with its values
        def beside(link) = @beside.map { |side| side.call(link) }

        # @param faults [Array] of LinkSubject
        # @param beside [Array]
        # @return [Array] the key of a link of which these two are known
        def key_of(faults, beside) = [@number, faults, beside]

        private

        def resting(names)
          more = names.flat_map { |name| Aspect.of(name).rests.to_a } - names
          more.empty? ? names : resting(names | more)
        end
      end
    end
  end
end
