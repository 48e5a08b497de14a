# frozen_string_literal: true

# Keeps the links of a file, each once, with all places where it was found. The same file twice adds nothing.
class LinkImporting < Importing
  private

  def kind = "links"

  def reader = Orvant::Inventory::LinkList

  def items = @read.sightings

  def identity(sighting) = digest(sighting.identity)

  def known(identities)
    identities.each_slice(BATCH).flat_map { |batch| @workspace.sightings.where(identity: batch).pluck(:identity) }
  end

  def sample(sighting)
    {"line" => sighting.line, "address" => sighting.address.raw, "kind" => sighting.kind, "place" => sighting.place,
     "owner" => sighting.owner, "spend" => sighting.spend, "since" => sighting.since&.iso8601}
  end

  def keep(batch)
    fresh = batch.uniq { |sighting| identity(sighting) }.to_h { |sighting| [identity(sighting), sighting] }
    fresh.except!(*known(fresh.keys))
    return 0 if fresh.empty?

    links = link_ids(fresh.values)
    Sighting.insert_all(fresh.map { |id, sighting| sighting_row(id, sighting, links.fetch(sighting.address.normal_form)) })
    replace(fresh.values.select(&:replaces), links)
    refresh(links.values)
    fresh.size
  end

  def link_ids(sightings)
    now = Time.now.utc
    rows = sightings.uniq { |sighting| sighting.address.normal_form }.map do |sighting|
      {workspace_id: @workspace.id, address: sighting.address.raw, normal_form: sighting.address.normal_form,
       host: sighting.address.host, created_at: now, updated_at: now}
    end
    Link.insert_all(rows, unique_by: %i[workspace_id normal_form])
    forms = rows.map { |row| row[:normal_form] }
    @workspace.links.where(normal_form: forms).pluck(:normal_form, :id).to_h
  end

  def sighting_row(identity, sighting, link_id)
    now = Time.now.utc
    {workspace_id: @workspace.id, link_id: link_id, import_id: @import.id, identity: identity, kind: sighting.kind,
     place: sighting.place, owner: sighting.owner, spend: sighting.spend,
     since: sighting.since, created_at: now, updated_at: now}
  end

  # A corrected link takes the place of the one it stands in for: that one is no longer out, and no longer swept.
  def replace(sightings, links)
    sightings.each do |sighting|
      old = @workspace.links.find_by(normal_form: sighting.replaces.normal_form) or next
      by = links.fetch(sighting.address.normal_form)
      old.update!(replaced_by_id: by, retired_at: Time.now.utc) unless old.id == by
    end
  end

  # A link found anew is out again, whatever was said of it before.
  def refresh(ids)
    @workspace.links.where(id: ids).update_all(retired_at: nil, replaced_by_id: nil)
    Link.refresh_provenance(ids)
  end

  def afterwards = FixLedger.new(@workspace).refresh
end
