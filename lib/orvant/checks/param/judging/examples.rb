# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Good and bad examples of a convention, made from it and proved by the checks: what a printed page of
      # the rules shows.
      class Examples
        # One example. text: the value · code, why: of the finding, nil for a good one.
        Example = Struct.new(:text, :code, :why, keyword_init: true) do
          def to_h = members.to_h { |name| [name.to_s, self[name]] }
        end

        PLAIN = {
          "source" => "letter",
          "medium" => "email",
          "campaign" => "june-walks",
          "content" => "button",
          "term" => "ferry"
        }.freeze
        MOST = 4

        # @param convention [Convention]
        # @param role [Convention::Role]
        def initialize(convention, role)
          @convention = convention
          @role = role
        end

        # @return [Array<Example>] values that pass
        def good
          @good ||= candidates.uniq.select { |value| found(value).empty? }.first(3)
            .map { |value| Example.new(text: value) }
        end

        # @return [Array<Example>] slips that people make with the good ones, each found by another check
        def bad
          slips = good.map(&:text).flat_map { |value| slips_of(value) }
          slips.filter_map { |value|
            (finding = found(value).first) &&
              Example.new(text: value, code: finding.code, why: finding.message)
          }.uniq(&:code).first(MOST)
        end

        private

        def candidates
          return @role.vocabulary.values.first(3) if @role.vocabulary.closed?

          plain = PLAIN.fetch(@role.name, "north").gsub("-", @role.separator)
          @role.segments&.examples.to_a + @role.vocabulary.values.first(2) + [@role.fold(plain)]
        end

        def slips_of(value)
          [value.capitalize,
            value.tr(@role.separator, " "),
            value.tr(@role.separator, "_"),
            "#{value}.",
            (value.length > 5) ? value.dup.tap { |text| text[2], text[3] = text[3], text[2] } : nil,
            *@role.vocabulary.entries.flat_map(&:aliases).first(1),
            "#{value}#{@role.separator}",
            value.upcase,
            "x#{value}x",
            (value * 12 if @role.longest)].compact
        end

        # What is wrong with the value by itself, on a link that says nothing else.
        def found(value)
          address = Address.new("http://#{@convention.own_hosts.names.first.delete_prefix("*.")}/")
            .with(added: [[@role.carrier, value]])
          subject = LinkSubject.new(address, @convention)
          panel.findings(subject)
        end

        def panel = @panel ||= Panel.new(Check.family("param").select { |check| check < ValueCheck })
      end
    end
  end
end
