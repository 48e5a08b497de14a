# frozen_string_literal: true

module Orvant
  module Checks
    module Traffic
      # Explains the rows of a file without a database: once it is read to learn what rows say together, and
      # once to tell of each.
      class Explainer
        # Rows that were told alike are remembered.
        REMEMBERED = 100_000
        # One row. channel · rule: number, nil for none · causes: Array<Finding>, the main one first.
        Told = Struct.new(:row, :answer, :causes, keyword_init: true) do
          def main = causes.first

          # @return [Boolean] whether nothing is known of why it is direct or unassigned
          def unexplained?
            (answer.direct? || answer.unassigned?) &&
              (main.nil? || SuspectDirect::SHOWN.include?(main.place["grade"]))
          end
        end

        # @param convention [Convention]
        # @param facts [Array<Orvant::Traffic::LinkFact>]
        # @yieldreturn [Orvant::Traffic::SessionTable] the file, from its beginning: asked for twice
        def initialize(convention, facts, &file)
          @convention = convention
          @facts = facts
          @file = file
          @told = Memory.new(REMEMBERED)
        end

        # @return [Orvant::Traffic::SessionTable] as it was read last: what was rejected, and notes
        attr_reader :table

        # @yieldparam told [Told]
        def each
          knowledge = learn
          @table = @file.call
          table.each do |combination, day, measures, line|
            row = Orvant::Traffic::Row.of(combination, day, measures, line: line)
            yield told(row, combination, knowledge)
          end
        end

        private

        def told(row, combination, knowledge)
          answer, causes = @told.fetch([
            combination.digest,
            knowledge.era(row.date),
            (row.date if answerable_by_day?(knowledge, row))
          ]) { Traffic.explain(row, knowledge) }
          Told.new(row: row, answer: answer, causes: causes)
        end

        # Bursts are told of single days.
        def answerable_by_day?(knowledge, row)
          row.source.empty? &&
            row.medium.empty? &&
            row.referrer.empty? &&
            knowledge.burst_days(knowledge.page(row.landing)).include?(row.date)
        end

        def learn
          pages = @facts.map(&:page).to_h { |page| [page, true] }
          plain = Orvant::Traffic::Knowledge.new(@convention, [])
          campaigns, history = Hash.new(0), {}
          @file.call.each do |combination, day, measures, _line|
            campaigns[combination.campaign] += measures.first
            next unless combination.source.empty? && combination.medium.empty? && combination.referrer.empty?

            page = plain.page(combination.landing)
            (history[page] ||= Hash.new(0))[day] += measures.first if pages.key?(page)
          end
          Orvant::Traffic::Knowledge.new(@convention, @facts, campaigns: campaigns, history: history)
        end
      end
    end
  end
end
