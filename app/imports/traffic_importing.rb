# frozen_string_literal: true

# Keeps the session rows of a file, each once, and explains them.
class TrafficImporting < Importing
  private

  def usual_kind = "traffic"

  def reading(bytes)
    matching = @options[:matching] || ColumnMatching.for(@workspace, "traffic")
    Orvant::Traffic::SessionTable.read(bytes, matching: matching)
  end

  def fields = Orvant::Traffic::SessionTable.fields

  # Rows that a report shows as one (it was exported by hour, or with columns that are not read) are added up.
  def items
    @items ||= @read.rows.group_by { |row| identity(row) }.values.map { |alike| added_up(alike) }
  end

  def added_up(rows)
    return rows.first if rows.size == 1

    rows.first.dup.tap { |sum| %i[sessions conversions revenue].each { |measure| sum[measure] = rows.sum(&measure) } }
  end

  def identity(row) = digest([row.date.iso8601, *row.visit.values])

  def known(identities)
    identities.each_slice(BATCH).flat_map { |batch| @workspace.traffic_rows.where(identity: batch).pluck(:identity) }
  end

  def sample(row)
    row.visit.merge("line" => row.line, "date" => row.date.iso8601, "sessions" => row.sessions,
      "conversions" => row.conversions, "revenue" => row.revenue)
  end

  def keep(batch)
    fresh = batch.to_h { |row| [identity(row), row] }
    fresh.except!(*known(fresh.keys))
    return 0 if fresh.empty?

    TrafficRow.insert_all(fresh.map { |id, row| stored(id, row) })
    fresh.size
  end

  def stored(identity, row)
    {workspace_id: @workspace.id, import_id: @import.id, identity: identity, date: row.date, sessions: row.sessions,
     conversions: row.conversions, revenue: row.revenue,
     causes: [], roots: [], **row.visit.transform_keys(&:to_sym)}
  end
end
