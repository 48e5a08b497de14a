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
      @workspace.tell("import.removing", import: @import)
      links = @import.sightings.distinct.pluck(:link_id) + take_back_endings
      [Sighting, ImportEntry, SitePage].each do |rows|
        rows.where(import_id: @import.id).delete_all
      end
      @workspace.links.where(id: links).where.not(id: Sighting.live.select(:link_id))
        .update_all(retired_at: Time.now.utc)
      Link.refresh_provenance(links)
      @import.delete
    end
    @workspace.tell("import.removed")
  end

  private

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
