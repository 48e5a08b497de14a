# frozen_string_literal: true

# Session rows, the channel mix, and causes.
class TrafficRowsResource < Resource
  ROW_SORTS = %w[date sessions revenue channel landing source medium campaign].to_h { |name| [name, name] }.freeze
  ROW_COLUMNS = %w[date channel cause source medium campaign landing referrer sessions conversions revenue].freeze

  get "/api/workspaces/:workspace/traffic" do
    groups = TrafficGroups.new(workspace).groups
    chosen = workspace.fixes.where(id: params["fixes"].to_s.split(",")).pluck(:root)
    rows = workspace.traffic_rows
    json("period" => {"from" => rows.minimum(:date)&.iso8601, "to" => rows.maximum(:date)&.iso8601},
      "sessions" => rows.sum(:sessions),
      "swept_at" => workspace.sweeps.where(state: "done").order(:id).last&.finished_at&.iso8601,
      "recorded" => shares(Orvant::Traffic::Mix.of(groups)),
      "forecast" => shares(Orvant::Traffic::Mix.of(groups, chosen: chosen)), "causes" => causes,
      "rules" => convention.channel_rules.rules.map { |rule| {"number" => rule.number, "channel" => rule.channel, "when" => rule.to_s} })
  end

  get "/api/workspaces/:workspace/traffic/rows" do
    rows = filtered_rows
    page, cursor = paged(rows.includes(:explanation), ROW_SORTS)
    json("rows" => page.map(&:as_document), "next_cursor" => cursor, "total" => rows.count, "sessions" => rows.sum(:sessions))
  end

  get "/api/workspaces/:workspace/traffic/rows.csv" do
    rows = filtered_rows.includes(:explanation).order(:id).find_each.lazy.map { |row| row.as_document.merge("revenue" => format("%.2f", row.revenue / 100.0)).values_at(*ROW_COLUMNS) }
    csv("sessions.csv", ROW_COLUMNS, rows)
  end

  private

  def filtered_rows = TrafficRowQuery.new(workspace, params).rows

  def shares(mix)
    total = mix.sum { |_, sums| sums[:sessions] }
    mix.map { |channel, sums| {"channel" => channel, "origin" => Orvant::Traffic.meaning(channel), **sums.transform_keys(&:to_s), "share" => total.zero? ? 0.0 : (sums[:sessions].to_f / total).round(4)} }
  end

  def causes
    ids = workspace.fixes.pluck(:root, :id).to_h
    roots = Explanation.roots_of(workspace)
    sums = Arel.sql("SUM(sessions), SUM(conversions), SUM(revenue)")
    columns = %i[cause channel rightful_channel explanation_id]
    rows = workspace.traffic_rows.where.not(cause: "").group(*columns).pluck(*columns, sums)
    fixes = ->(row) { roots.fetch(row[3], []).filter_map { |root| ids[root] } }
    rows.group_by { |row| row.first(3) }.map { |key, same| cause_sum(key, same, same.flat_map(&fixes).uniq) }.sort_by { |one| -one["sessions"] }
  end

  def cause_sum((cause, channel, becomes), same, fixes)
    sessions, conversions, revenue = (4..6).map { |index| same.sum { |row| row[index] } }
    {"cause" => cause, "channel" => channel, "becomes" => becomes, "sessions" => sessions,
     "conversions" => conversions, "revenue" => revenue, "fixes" => fixes}
  end
end
