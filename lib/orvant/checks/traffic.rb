# frozen_string_literal: true

module Orvant
  module Checks
    # The family on rows of traffic, joined to links. Each check answers the cause that it knows of.
    module Traffic
      # In this order: the first that applies is a row's main cause.
      ORDER = %w[internal-overwrite unassigned placeholder paid-as-unpaid split-name self-referral payment-referral mail-referral social-referral suspect-direct].map { |name| "traffic/#{name}" }.freeze

      NAMES = %w[source medium campaign content term].freeze

      # What the family judges: one row with the channel it has, and what is known of links.
      Subject = Struct.new(:row, :answer, :knowledge, keyword_init: true) do
        def convention = knowledge.convention

        # @return [Array<Convention::Role>] of source, medium and campaign
        def roles = @roles ||= %w[source medium campaign].filter_map { |role| convention.role(role) }

        # @return [Array<String>] of all that a report names
        def names = NAMES

        def value(role) = row.visit[role]

        # @return [String] the channel with some values changed
        def channel_with(values) = knowledge.channel(row.visit.merge(values))
      end

      class << self
        # @param row [Orvant::Traffic::Row]
        # @param knowledge [Orvant::Traffic::Knowledge]
        # @return [Array(Convention::ChannelRules::Answer, Array<Finding>)] the channel, and the causes with
        #   the main one first. A cause's place holds `cause`, `links` (ids), `roots` (of fixes) and `becomes`
        #   (a channel, or nil where none can be told).
        def explain(row, knowledge)
          answer = knowledge.convention.channel_rules.classify(row.visit)
          subject = Subject.new(row: row, answer: answer, knowledge: knowledge)
          concerned = ordered.select { |check| check.concerns?(subject) }
          [answer, concerned.flat_map { |check| check.new(subject).findings }]
        end

        # @param lines [Array<Orvant::Traffic::Reckoning::Line>]
        # @param convention [Convention]
        # @param reasons [Hash{String => Array<String>}] words by campaign, in lower case: what is known that
        #   may explain a difference
        # @return [Array<Finding>]
        def reckon(lines, convention, reasons: {})
          lines.flat_map do |line|
            known = reasons.fetch(line.name.downcase, []) + (line.twice.positive? ? ["twice"] : [])
            subject = ReckoningCheck::Subject.new(
              line: line,
              thresholds: convention.thresholds,
              reasons: known
            )
            [MissingSessions, ClaimGap].flat_map { |check| check.new(subject).findings }
          end
        end

        # @param example [Hash] fields of a row, or figures of a campaign
        # @return [Array<Finding>] with one lossy link known, landing on /walks
        def sample(example)
          if example.key?("clicks") || example.key?("claimed")
            return reckon([Sample.line(example)], Sample.knowledge.convention)
          end

          explain(Sample.row(example), Sample.knowledge).last
        end

        private

        def ordered
          @ordered ||= Check.family("traffic").select { |check| ORDER.include?(check.code) }
            .sort_by { |check| ORDER.index(check.code) }
        end
      end
    end
  end
end
