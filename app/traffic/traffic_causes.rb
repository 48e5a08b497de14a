# frozen_string_literal: true

# What stands in the wrong channel, by cause, as recorded and as it would be, with the fixes that win it back.
class TrafficCauses
  COLUMNS = [
    "explanations.cause",
    "traffic_days.channel",
    "explanations.rightful_channel",
    "traffic_days.explanation_id"
  ].freeze
  MEASURES = %w[sessions conversions revenue].freeze

  # @param workspace [Workspace]
  # @param link_id [Integer]
  # @return [Array<Hash{String => Object}>] cause and sessions of those whose cause names this link
  def self.of_link(workspace, link_id)
    rows = workspace.traffic_rows.caused_by(link_id).group("explanations.cause")
    rows.sum("traffic_rows.sessions").map { |cause, sessions| {"cause" => cause, "sessions" => sessions} }
  end

  # @param workspace [Workspace]
  # @param period [Range<Date>, nil] all days, where none is named
  def initialize(workspace, period)
    @workspace = workspace
    @period = period
  end

  # @return [Array<Hash{String => Object}>] cause, channel, becomes, MEASURES (revenue in cents) and fixes
  #   (ids), the most sessions first
  def documents
    sums.group_by { |row| row.first(3) }.map { |key, same| document(key, same) }
      .sort_by { |one| -one["sessions"] }
  end

  private

  def sums
    days = @workspace.traffic_days.joins(:explanation).where.not(explanations: {cause: ""})
    days = days.where(date: @period) if @period
    days.group(*COLUMNS).pluck(*COLUMNS, *MEASURES.map { |name| Arel.sql("SUM(#{name})") })
  end

  def document((cause, channel, becomes), same)
    figures = same.map { |row| row.last(MEASURES.size).map(&:to_i) }.transpose.map(&:sum)
    {"cause" => cause,
     "channel" => channel,
     "becomes" => becomes,
     **MEASURES.zip(figures).to_h,
     "fixes" => same.flat_map { |row| fixes(row[3]) }.uniq}
  end

  def fixes(explanation) = roots.fetch(explanation, []).filter_map { |root| ids[root] }

  def roots = @roots ||= Explanation.roots_of(@workspace)

  def ids = @ids ||= @workspace.fixes.pluck(:root, :id).to_h
end
