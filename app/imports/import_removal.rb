# frozen_string_literal: true

# Takes back what a file has added. Importing the file again brings it back.
class ImportRemoval
  # @param import [Import]
  def initialize(import)
    @import = import
    @workspace = import.workspace
  end

  # Removes the import's rows and sightings; a link that is then found nowhere is retired, not lost.
  def call
    ActiveRecord::Base.transaction do
      leave_to_others
      give_back_rows
      links = @import.sightings.distinct.pluck(:link_id) + take_back_endings
      [Sighting, TrafficRow, ImportEntry, SitePage, Claim, Order, Touch].each do |rows|
        rows.where(import_id: @import.id).delete_all
      end
      @workspace.links.where(id: links).where.not(id: Sighting.live.select(:link_id))
        .update_all(retired_at: Time.now.utc)
      Link.refresh_provenance(links)
      @import.delete
    end
    Combination.renew(@workspace)
    Explaining.later(@workspace)
  end

  private

  # Figures that this import has replaced hold again.
  def give_back_rows
    return unless TrafficImporting::KINDS.include?(@import.kind)

    rows = TrafficRow.where(import_id: @import.id)
    before = ReplacedRow.where(replaced_by_id: @import.id)
    days = (rows.distinct.pluck(:date) + before.distinct.pluck(:date)).uniq
    [rows, before].each do |some|
      Combination.touch_all_of(Combination.where(id: some.select(:combination_id)))
    end
    TrafficRow.changed(@workspace, days)
    rows.delete_all
    # What another import had replaced of this one has no import to come back to.
    ReplacedRow.where(import_id: @import.id).delete_all
    columns = TrafficImporting::COLUMNS.join(", ")
    TrafficRow.connection.execute("INSERT INTO traffic_rows (#{columns}) #{before.select(*TrafficImporting::COLUMNS).to_sql}")
    before.delete_all
  end

  # A sighting that a later import holds too is that one's from now on; one that an earlier import gave stays
  # with it.
  def leave_to_others
    @import.sightings.where.not(last_import_id: [nil, @import.id]).update_all("import_id = last_import_id")
    @workspace.sightings.where(last_import_id: @import.id).where.not(import_id: @import.id)
      .update_all("last_import_id = import_id")
  end

  # What this import had ended is out again.
  def take_back_endings
    ended = Sighting.where(ended_by_id: @import.id)
    links = ended.distinct.pluck(:link_id)
    ended.update_all(ended_by_id: nil)
    @workspace.links.where(id: links).update_all(retired_at: nil)
    links
  end
end
