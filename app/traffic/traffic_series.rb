# frozen_string_literal: true

# A workspace's traffic by day or week, with what happened meanwhile: sweeps, proven fixes, sendings, changes
# of the convention.
class TrafficSeries
  MEASURES = Combination::MEASURES
  MOST_MARKS = 200

  # @param workspace [Workspace]
  # @param filters [Hash{String => String}] `by` day or week, `from`, `to`, `channel`, `fix`: one whose rows
  #   are looked at, `compare`: what stands beside
  def initialize(workspace, filters)
    @workspace = workspace
    @filters = filters.reject { |_, value| value.to_s.empty? }
    @period = TrafficPeriod.of(@filters)
  end

  # @return [Hash{String => Object}] points in order of time, each with its measures and its sessions by
  #   channel; marks; and what stands beside, each of its points with the day of the picture `at` which it is
  #   as far into its days
  def document
    {
      "by" => by,
      "points" => points,
      "channels" => points.flat_map { |one| one["channels"].keys }.uniq,
      "marks" => known.empty? ? [] : marks(known.min, known.max),
      "before" => (before if beside)
    }
  end

  # @return [Array<Hash{String => Object}>] in order of time
  def points
    @points ||= begin
      days = sums.group_by(&:first)
      known.group_by { |day| beginning(day) }.sort.map { |from, same| point(from, same, days) }
    end
  end

  # @return [Date, nil] where the first day or week begins; nil without days
  def start = (@period&.begin || known.min)&.then { |day| beginning(day) }

  private

  def beside = @beside ||= TrafficPeriod.beside(@filters)

  def before
    other = TrafficSeries.new(@workspace, @filters.except("compare").merge(days_of(beside)))
    ahead = (start && other.start) ? start - other.start : 0
    points = other.points.map do |one|
      one.except("channels").merge("at" => (Date.iso8601(one["from"]) + ahead).iso8601)
    end
    {**days_of(beside), "points" => points}
  end

  def days_of(period) = {"from" => period.begin&.iso8601, "to" => period.end&.iso8601}

  def by = (@filters["by"] == "week") ? "week" : "day"

  def of_period = @period ? @workspace.traffic_days.where(date: @period) : @workspace.traffic_days

  # Days of which there are rows: where none of them is asked for, there were none, which is what a fix that
  # worked looks like.
  def known = @known ||= of_period.distinct.pluck(:date)

  def sums
    rows = of_period
    rows = rows.where(channel: @filters["channel"]) if @filters["channel"]
    if @filters["fix"]
      root = @workspace.fixes.find(@filters["fix"]).root
      rows = rows.where(explanation_id: Explanation::Root.where(root: root).select(:explanation_id))
    end
    rows.group(:date, :channel).pluck(:date, :channel, *MEASURES.map { |name| Arel.sql("SUM(#{name})") })
  end

  def beginning(day) = (by == "week") ? day - (day.cwday - 1) : day

  def point(from, same, days)
    rows = days.values_at(*same).compact.flatten(1)
    figures = MEASURES.each_with_index.to_h { |name, place| [name, rows.sum { |one| one[place + 2].to_i }] }
    {
      "from" => from.iso8601,
      "days" => same.size,
      **figures,
      "channels" => rows.group_by { |one| one[1] }.transform_values { |some| some.sum { |one| one[2].to_i } }
    }
  end

  def marks(first, last)
    span = first.beginning_of_day..last.end_of_day
    (sweeps(span) + proofs(span) + versions(span) + sendings(first..last)).sort_by { |one|
      one["date"]
    }.last(MOST_MARKS)
  end

  def mark(day, kind, text) = {"date" => day.to_date.iso8601, "kind" => kind, "text" => text}

  def sweeps(span)
    @workspace.sweeps.where(state: "done", finished_at: span).pluck(:finished_at)
      .map { |at| mark(at, "sweep", "Swept") }
  end

  def proofs(span)
    @workspace.fixes.where(state: "proven")
      .select { |fix| span.cover?(proven_at(fix)) }
      .map { |fix| mark(proven_at(fix), "fix", "Proven: #{fix.action}"[0, Orvant::Cut::LINE]) }
  end

  def proven_at(fix) = fix.proof.to_h["at"]&.then { |text| Time.iso8601(text) } || fix.updated_at

  def versions(span)
    @workspace.convention_versions.where(created_at: span)
      .where("version > 1")
      .map { |one|
        mark(
          one.created_at,
          "convention",
          "Convention, version #{one.version}#{": #{one.note}" unless one.note.empty?}"[0, Orvant::Cut::LINE]
        )
      }
  end

  def sendings(span)
    @workspace.sightings.where(kind: "message", since: span).distinct
      .pluck(:since, :place)
      .map { |day, place| [day, place[/\A[^·]+/].to_s.strip] }.uniq.first(MOST_MARKS)
      .map { |day, place| mark(day, "sending", "Sent: #{place}"[0, Orvant::Cut::LINE]) }
  end
end
