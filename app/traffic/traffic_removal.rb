# frozen_string_literal: true

# Takes what a file has brought out of the traffic, before its import goes.
class TrafficRemoval
  # @param workspace [Workspace]
  # @param import [Import]
  def initialize(workspace, import)
    @workspace = workspace
    @import = import
  end

  # @return [void]
  def call
    give_back_rows if TrafficImporting::KINDS.include?(@import.kind)
    [TrafficRow, Claim, Order, Touch].each { |rows| rows.where(import_id: @import.id).delete_all }
  end

  private

  # Figures that this import has replaced hold again.
  def give_back_rows
    rows = TrafficRow.where(import_id: @import.id)
    before = ReplacedRow.where(replaced_by_id: @import.id)
    note_changes(rows, before)
    rows.delete_all
    # What another import had replaced of this one has no import to come back to.
    ReplacedRow.where(import_id: @import.id).delete_all
    columns = TrafficImporting::COLUMNS.join(", ")
    TrafficRow.connection.execute("INSERT INTO traffic_rows (#{columns}) #{before.select(*TrafficImporting::COLUMNS).to_sql}")
    before.delete_all
  end

  def note_changes(*kinds)
    kinds.each { |rows| Combination.touch_all_of(Combination.where(id: rows.select(:combination_id))) }
    TrafficRow.changed(@workspace, kinds.flat_map { |rows| rows.distinct.pluck(:date) }.uniq)
  end
end
