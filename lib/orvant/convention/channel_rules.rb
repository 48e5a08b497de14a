# frozen_string_literal: true

module Orvant
  class Convention
    # Ordered rules that give a visit its channel. The first rule whose every condition holds wins; letter
    # case counts, as it does in most reports.
    class ChannelRules
      # Visits whose answers are kept: reports repeat the same few, and a sweep of many links must not hold
      # them all.
      REMEMBERED = 2_000
      UNASSIGNED = "Unassigned"
      DIRECT = "Direct"

      # The answer for one visit: the channel, the number of the rule that matched (from 1, nil if none), and
      # that rule in words.
      Answer = Struct.new(:channel, :rule, :because, :search, keyword_init: true) do
        def unassigned? = channel == UNASSIGNED

        def direct? = channel == DIRECT

        # @return [String, nil] the nearest rule that did not match, with the condition that failed
        def nearest
          return @nearest if defined?(@nearest)

          @nearest = search.call
        end
      end

      # @return [Array<String>] the fields of a visit that the rules look at
      attr_reader :fields
      attr_reader :rules

      # @param documents [Array<Hash>] the convention's channels, in order
      def initialize(documents)
        @rules = documents.map.with_index(1) { |document, number| ChannelRule.new(document, number) }
        @fields = documents.flat_map { |document|
          document["when"].map { |condition| condition["field"] }
        }.uniq
        @answers = Memory.new(REMEMBERED)
      end

      # @param visit [Hash{String => String}] source, medium, campaign, content, term, referrer (a host),
      #   landing; absent is empty
      # @return [Answer]
      def classify(visit)
        said = visit.values_at(*@fields)
        @answers.fetch(said) { answer(@fields.zip(said).to_h) }
      end

      # @param channel [String]
      # @return [Boolean]
      def paid?(channel) = rules.any? { |rule| rule.channel == channel && rule.paid? }

      private

      def answer(visit)
        matched = rules.find { |rule| rule.match?(visit) }
        Answer.new(channel: matched&.channel || UNASSIGNED,
          rule: matched&.number,
          because: matched&.to_s || "no rule matches",
          search: -> { nearest(visit, matched) })
      end

      def nearest(visit, matched)
        rule = (rules - [matched]).max_by { |other| other.closeness(visit) }
        return unless rule&.closeness(visit)&.positive?

        failing = rule.failing(visit)
        if failing
          "rule #{rule.number} (#{rule.channel}) fails at: #{failing}"
        else
          "rule #{rule.number} (#{rule.channel}) would fit too, and stands behind"
        end
      end
    end
  end
end
