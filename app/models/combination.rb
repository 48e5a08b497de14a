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
    # Sums the stale ones anew from their rows, in statements that keep nobody waiting; those without rows go.
    #
    # @param workspace [Workspace]
    def renew(workspace)
      where(workspace: workspace, stale: true).order(:id).pluck(:id).each_slice(BATCH) { |ids| connection.execute(sanitize_sql([sums, {ids: ids}])) }
      where(workspace: workspace, stale: true).in_batches(of: BATCH, &:delete_all)
    end

    private

    def sums
      sum = MEASURES.map { |name| "SUM(#{name}) AS #{name}" }.join(", ")
      "UPDATE combinations SET stale = FALSE, first_on = s.first_on, last_on = s.last_on, #{MEASURES.map { |name| "#{name} = s.#{name}" }.join(", ")} " \
        "FROM (SELECT combination_id, MIN(date) AS first_on, MAX(date) AS last_on, #{sum} FROM traffic_rows WHERE combination_id IN (:ids) GROUP BY combination_id) AS s WHERE s.combination_id = combinations.id"
    end
  end

  # @param row [Orvant::Traffic::Combination]
  # @return [Hash{Symbol => Object}] columns
  def self.columns_of(row) = {digest: row.digest, own: row.own, **Orvant::Traffic::DIMENSIONS.to_h { |field| [field, row[field]] }}
end
