# frozen_string_literal: true

# What rows of traffic have in common, explained once: their channel and, where that is the wrong one, why. Its figures are sums over all
# days, brought up to date by the worker (`stale` says that they are not).
class Combination < ActiveRecord::Base
  FIELDS = Orvant::Traffic::DIMENSIONS.map(&:to_s).freeze
  MEASURES = Orvant::Traffic::MEASURES.map(&:to_s).freeze

  belongs_to :workspace
  belongs_to :explanation, optional: true
  has_many :traffic_rows

  # Combinations whose sums are renewed in one statement.
  BATCH = 2_000

  class << self
    # Sums the stale ones anew from their rows: read at once, written in statements that keep nobody waiting. Those without rows go.
    #
    # @param workspace [Workspace]
    def renew(workspace)
      stale = where(workspace: workspace, stale: true)
      return unless stale.exists?

      columns = [:combination_id, Arel.sql("MIN(date)"), Arel.sql("MAX(date)"), *MEASURES.map { |name| Arel.sql("SUM(#{name})") }]
      sums = workspace.traffic_rows.where(combination_id: stale.select(:id)).group(:combination_id).pluck(*columns)
      sums.each_slice(BATCH) { |some| connection.execute(written(some)) }
      stale.in_batches(of: BATCH, &:delete_all)
    end

    private

    # The names that both SQLite and PostgreSQL give to columns of VALUES.
    def written(sums)
      values = sums.map { |id, first, last, *figures| "(#{id},#{connection.quote(first.to_s)},#{connection.quote(last.to_s)},#{figures.map(&:to_i).join(",")})" }
      figures = MEASURES.each.with_index(4).map { |name, index| "#{name} = s.column#{index}" }
      "UPDATE combinations SET stale = FALSE, first_on = CAST(s.column2 AS #{day}), last_on = CAST(s.column3 AS #{day}), #{figures.join(", ")} FROM (VALUES #{values.join(",")}) AS s WHERE combinations.id = s.column1"
    end

    # SQLite keeps days as text.
    def day = connection.adapter_name.match?(/sqlite/i) ? "TEXT" : "DATE"
  end

  # @param row [Orvant::Traffic::Combination]
  # @return [Hash{Symbol => Object}] columns
  def self.columns_of(row) = {digest: row.digest, own: row.own, **Orvant::Traffic::DIMENSIONS.to_h { |field| [field, row[field]] }}
end
