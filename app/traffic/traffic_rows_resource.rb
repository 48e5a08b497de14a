# frozen_string_literal: true

# Session rows, the channel mix, and causes.
class TrafficRowsResource < Resource
  ROW_SORTS = {"date" => "date", "sessions" => "sessions", "revenue" => "revenue"}
    .merge(%w[channel landing source medium campaign].to_h { |name| [name, Combination.arel_table[name]] }).freeze
  CLAIM_COLUMNS = Orvant::Traffic::Reckoning::Line.members.map(&:to_s).freeze
  AMOUNTS = %w[revenue cost].freeze

  get "/api/workspaces/:workspace/traffic" do
    period = TrafficPeriod.of(params)
    groups = TrafficGroups.new(workspace, period).groups
    chosen = workspace.fixes.where(id: params["fixes"].to_s.split(",")).pluck(:root)
    days = workspace.traffic_days
    json("period" => {"from" => days.minimum(:date)&.iso8601, "to" => days.maximum(:date)&.iso8601},
      "sessions" => groups.sum(&:sessions),
      "swept_at" => workspace.sweeps.where(state: "done").order(:id).last&.finished_at&.iso8601,
      "recorded" => shares(Orvant::Traffic::Mix.of(groups)),
      "forecast" => shares(Orvant::Traffic::Mix.of(groups, chosen: chosen)), "causes" => TrafficCauses.new(workspace, period).documents,
      "rules" => convention.channel_rules.rules.map { |rule|
        {
          "number" => rule.number,
          "channel" => rule.channel,
          "when" => rule.to_s
        }
      })
  end

  # What a file says otherwise than the one before it.
  get "/api/workspaces/:workspace/imports/:id/difference" do
    json(ExportDifference.new(workspace.imports.find(params["id"])).document)
  end

  get "/api/workspaces/:workspace/traffic/rows" do
    page, cursor = paged(query.listed(params["sort"]), ROW_SORTS) { |*place| query.nearest(params["sort"], *place) }
    total, sessions = query.sums
    json(
      "rows" => TrafficRow.documents(page),
      "next_cursor" => cursor,
      "total" => total,
      "sessions" => sessions
    )
  end

  get "/api/workspaces/:workspace/traffic/rows.csv" do
    content_type "text/csv", charset: "utf-8"
    attachment "sessions.csv"
    Ahead.new(TrafficExport.new(workspace, query.rows, personal_data))
  end

  get "/api/workspaces/:workspace/traffic/series" do
    json(TrafficSeries.new(workspace, params).document)
  end

  get "/api/workspaces/:workspace/traffic/table" do
    json(TrafficTable.new(workspace, params).document)
  end

  get "/api/workspaces/:workspace/traffic/table.csv" do
    table = TrafficTable.new(workspace, params).document
    csv("table.csv", table_header(table), table_rows(table))
  end

  get "/api/workspaces/:workspace/traffic/table.xlsx" do
    table = TrafficTable.new(workspace, params).document
    content_type "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
    attachment "table.xlsx"
    Orvant::Export::Workbook.write("Traffic", table_header(table), masked(table_rows(table)))
  end

  get "/api/workspaces/:workspace/traffic/steps" do
    json(TrafficSteps.new(workspace, params).document)
  end

  get "/api/workspaces/:workspace/traffic/steps.csv" do
    steps = TrafficSteps.new(workspace, params).document
    csv(
      "steps.csv",
      [steps["down"], *steps["steps"]],
      steps["rows"].map { |row| [row["value"], *row["came"]] }
    )
  end

  get "/api/workspaces/:workspace/traffic/referrers" do
    referrers = TrafficReferrers.new(workspace, convention)
    json(
      "referrers" => referrers.hosts,
      "rest" => referrers.rest,
      "version" => workspace.convention_version.version
    )
  end

  post "/api/workspaces/:workspace/traffic/referrers" do
    wish = json_body
    TrafficReferrers.new(workspace, convention)
      .take(wish["host"].to_s.downcase, wish["taken_for"], base: wish["version"], author: author(wish))
    referrers = TrafficReferrers.new(workspace, workspace.convention)
    status 201
    json(
      "referrers" => referrers.hosts,
      "rest" => referrers.rest,
      "version" => workspace.convention_version.version
    )
  end

  error ConventionVersion::Overtaken do
    problem(Problem.new(:overtaken, env["sinatra.error"].message))
  end

  get "/api/workspaces/:workspace/traffic/claims" do
    TrafficPeriod.of(params)
    answer("claims", params.slice("from", "to"))
  end

  get "/api/workspaces/:workspace/traffic/claims.csv" do
    lines = claim_lines
    csv(
      "claims.csv",
      CLAIM_COLUMNS,
      lines.map { |line| CLAIM_COLUMNS.map { |name| %w[cost claimed_value order_value].include?(name) ? format("%.2f", line[name.to_s] / 100.0) : line[name.to_s] } }
    )
  end

  get "/api/workspaces/:workspace/traffic/orders" do
    json(TrafficOrders.new(workspace, TrafficPeriod.of(params), search: params["q"].to_s).document)
  end

  get "/api/workspaces/:workspace/traffic/orders/:number" do
    json(TrafficOrders.new(workspace).one(params["number"]))
  end

  private

  # Where there is much, those that were made for whoever has the claims before them.
  def claim_lines
    period = TrafficPeriod.of(params)
    unless PreparedFile.large?(workspace, "claims")
      return TrafficClaims.new(workspace, period).lines.map { |line| line.to_h.transform_keys(&:to_s) }
    end

    made = PreparedFile.last_of(workspace, "claims", params.slice("from", "to"), who.mark)
    raise Problem.new(:not_ready, "The claims of these days are not reckoned yet: open them first, then take them out.") unless made

    JSON.parse(File.read(made.file))["rows"]
  end

  def table_header(table)
    across = table["columns"].map { |value| value.empty? ? "–" : value }
    [table["down"], *across, *Combination::MEASURES, *("sessions beside" if table["before"])]
  end

  def table_rows(table)
    table["rows"].map do |row|
      [
        row["value"],
        *table["columns"].map { |column| row["cells"].dig(column, "sessions").to_i },
        *Combination::MEASURES.map { |name| amount(name, row[name]) },
        *(row["before"].to_h.fetch("sessions", 0) if table["before"])
      ]
    end
  end

  def amount(name, figure) = AMOUNTS.include?(name) ? format("%.2f", figure / 100.0) : figure

  def query = @query ||= TrafficRowQuery.new(workspace, params)

  def shares(mix)
    total = mix.sum { |_, sums| sums[:sessions] }
    mix.map do |channel, sums|
      {
        "channel" => channel,
        "origin" => Orvant::Traffic.meaning(channel),
        **sums.transform_keys(&:to_s),
        "share" => total.zero? ? 0.0 : (sums[:sessions].to_f / total).round(4)
      }
    end
  end
end
