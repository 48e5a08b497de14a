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
          names = Aspect::ALL.keys & checks.flat_map(&:aspects)
          @marks = names.map { |name| Aspect.of(name).mark }
          @beside = (names - [:values]).map { |name| Aspect.of(name).mark }
          @clean = names.filter_map { |name| Aspect.of(name).clean }
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
        # @return [Array] the same for all links whose findings have the same codes and weights
        def verdict_key(link) = collect(@marks, link)

        # @param link [LinkSubject]
        # @return [Array] what of the verdict's key does not depend on the rules for values
        def key_beside_values(link) = collect(@beside, link)

        # @param link [LinkSubject] a clean one
        # @return [Array] the same for all clean links of which nothing or the same is to be said
        def clean_key(link) = collect(@clean, link).unshift(:clean)

        private

        def collect(marks, link)
          found = [@number]
          marks.each { |mark| mark.call(link, found) }
          found
        end
      end
    end
  end
end
