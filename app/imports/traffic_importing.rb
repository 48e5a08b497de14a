# frozen_string_literal: true

# Keeps the session rows of a file, each once, and explains them.
class TrafficImporting < Importing
  FIGURES = %i[sessions conversions revenue].freeze

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
    known = @workspace.traffic_rows.where(identity: fresh.keys).to_a
    renew(known, fresh)
    fresh.except!(*known.map(&:identity))
    return 0 if fresh.empty?

    TrafficRow.insert_all(fresh.map { |id, row| stored(id, row) })
    fresh.size
  end

  # A day that is exported again may have other figures by then: the new ones hold, and those before are kept for taking this back.
  def renew(known, fresh)
    others = known.reject { |row| FIGURES.all? { |name| row[name] == fresh[row.identity][name] } }
    replaced.concat(others.map { |row| [row.id, *FIGURES.map { |name| row[name] }] })
    others.each { |row| row.update_columns(FIGURES.to_h { |name| [name, fresh[row.identity][name]] }) }
  end

  def replaced = @replaced ||= []

  def afterwards
    return if replaced.empty?

    said = "#{Orvant::Words.counted(replaced.size, "row was", "rows were")} there with other figures: the new ones hold."
    @import.update!(options: @import.options.merge("replaced" => replaced), notes: @import.notes + [said])
  end

  def stored(identity, row)
    {workspace_id: @workspace.id, import_id: @import.id, identity: identity, date: row.date, sessions: row.sessions,
     conversions: row.conversions, revenue: row.revenue, **row.visit.transform_keys(&:to_sym)}
  end
end
