# frozen_string_literal: true

module Orvant
  module Traffic
    # The channel mix as recorded, and as it would have been with chosen fixes made.
    module Mix
      # Rows that go together: their channel, roots (Array<String>), becomes (a channel or nil), sessions,
      # conversions, revenue.
      Group = Struct.new(:channel, :roots, :becomes, :sessions, :conversions, :revenue, keyword_init: true)

      class << self
        # @param groups [Array<Group>]
        # @param chosen [Array<String>] roots of fixes; none gives the mix as recorded
        # @return [Hash{String => Hash{Symbol => Integer}}] channel => sessions, conversions, revenue (cents),
        #   the largest first
        def of(groups, chosen: [])
          totals = Hash.new { |mix, channel| mix[channel] = {sessions: 0, conversions: 0, revenue: 0} }
          groups.each { |rows| add(totals[moved?(rows, chosen) ? rows.becomes : rows.channel], rows) }
          totals.sort_by { |_, total| -total[:sessions] }.to_h
        end

        private

        # A row that one of several links may have caused moves only when all of them are mended.
        def moved?(group, chosen) = !group.becomes.nil? && group.roots.any? && (group.roots - chosen).empty?

        def add(total, group)
          %i[sessions conversions revenue].each { |measure| total[measure] += group[measure] }
        end
      end
    end
  end
end
