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
      links = @import.sightings.distinct.pluck(:link_id)
      Sighting.where(import_id: @import.id).delete_all
      TrafficRow.where(import_id: @import.id).delete_all
      @workspace.links.where(id: links).where.missing(:sightings).update_all(retired_at: Time.now.utc)
      Link.refresh_provenance(links)
      @import.delete
    end
    FixLedger.new(@workspace).refresh
  end
end
