# frozen_string_literal: true

# Keeps the links of a source, each once, with all places where it was found. The same source twice adds
# nothing; what a whole source no longer holds is ended.
class LinkImporting < Importing
  UPDATED = %i[owner spend since status clicks conversions key declared click samples text facts target ended_by_id last_import_id updated_at].freeze
  # Kinds whose sources are whole: what is not in them any more is gone.
  WHOLE = %w[ads register site network sheet signposts].freeze

  # @return [Hash{String => Object}] with the hosts in click addresses of which nobody has said whether they
  #   charge
  def preview = super.merge("may_charge" => may_charge)

  private

  def may_charge
    found = ClickHost.rows(@workspace.id, items, Time.now.utc).map { |row| ClickHost.new(row) }
    ClickHost.may_charge_of(convention, found).map(&:as_document)
  end

  def reading(bytes)
    said = @options.slice(*Orvant::Inventory::Source::OPTIONS.keys)
    said[:matching] ||= ColumnMatching.for(@workspace, @kind)
    Orvant::Inventory::Source.read(@kind, bytes, filename: @filename, convention: convention, **said)
  end

  # The rules by which the source is read, whatever is saved meanwhile.
  def convention
    @convention ||= @workspace.convention_version.then do |latest|
      @rules_version = latest.version
      latest.convention
    end
  end

  def fields
    reader = Orvant::Inventory::Source::READERS[@kind]
    (reader < Orvant::Inventory::TableReader) ? reader.fields : []
  end

  # Whatever a message or a page held that no database keeps as text costs its own row.
  def items
    @items ||= @read.items.reject do |sighting|
      said = sighting.to_a.grep(String).concat(sighting.facts.to_h.values.grep(String)).any? { |text|
        text.include?("\0")
      }
      said && @read.rejected << Orvant::Inventory::Table::Rejected.new(
        line: sighting.line.to_i,
        reason: "What stands beside the link holds a byte that is no text.",
        cells: [sighting.address.raw]
      )
    end
  end

  # They are known once all items were looked at.
  def rejected = items && super

  def identity(sighting) = digest(sighting.identity)

  def known(identities)
    identities.each_slice(BATCH).flat_map do |batch|
      @workspace.sightings.where(identity: batch, ended_by_id: nil).pluck(:identity)
    end
  end

  def sample(sighting)
    {"line" => sighting.line,
     "address" => sighting.address.raw,
     "kind" => sighting.kind,
     "place" => sighting.place,
     "owner" => sighting.owner.to_s,
     "spend" => sighting.spend,
     "since" => sighting.since&.iso8601,
     "status" => sighting.status.to_s,
     "text" => sighting.text,
     "part" => sighting.part,
     "target" => sighting.target&.raw,
     "declared" => sighting.declared&.raw,
     "click" => sighting.click}
  end

  # Of one batch. identities: of its sightings · found: the sightings themselves · forms: the normal form of
  # the address of each · links, sightings, click_hosts: an Insertion of each
  Prepared = Struct.new(:identities, :found, :forms, :links, :sightings, :click_hosts, keyword_init: true)

  def prepared(batch)
    batch.each { |sighting| remember_loss(sighting) }
    found = batch.each_with_object({}) { |sighting, known| known[identity(sighting)] ||= sighting }
    now = Time.now.utc
    Prepared.new(
      identities: found.keys,
      found: found.values,
      forms: found.values.map { |sighting| sighting.address.normal_form },
      links: Insertion.new(Link, link_rows(found.values, now), known_by: %i[workspace_id normal_form]),
      sightings: Insertion.new(
        Sighting,
        found.map { |id, sighting| sighting_row(id, sighting, now) },
        known_by: %i[workspace_id identity],
        anew: UPDATED,
        later: :link_id
      ),
      click_hosts: ClickHost.insertion(@workspace.id, batch, now)
    )
  end

  def keep(prepared)
    added = prepared.identities.size - known(prepared.identities).size
    # Together with the links, so that none of them is asked for before it is known whether it may be.
    prepared.click_hosts.call
    prepared.links.call
    links = @workspace.links.where(normal_form: prepared.forms.uniq).pluck(:normal_form, :id).to_h
    prepared.sightings.call(links.fetch_values(*prepared.forms))
    replace(prepared.found.select(&:replaces), links)
    refresh(links.values)
    added
  end

  # What a new link repeats of its sightings is, for most, what its only one says.
  def link_rows(sightings, now)
    sightings.uniq { |sighting| sighting.address.normal_form }.map do |sighting|
      {workspace_id: @workspace.id,
       address: sighting.address.raw,
       normal_form: sighting.address.normal_form,
       host: sighting.address.host,
       kind: sighting.kind,
       place: sighting.place,
       owner: sighting.owner.to_s,
       spend: sighting.spend.to_i,
       created_at: now,
       updated_at: now}
    end
  end

  def sighting_row(identity, sighting, now)
    {workspace_id: @workspace.id,
     import_id: @import.id,
     last_import_id: @import.id,
     identity: identity,
     kind: sighting.kind,
     place: sighting.place,
     owner: sighting.owner.to_s,
     spend: sighting.spend,
     since: sighting.since,
     status: sighting.status.to_s,
     clicks: sighting.clicks,
     conversions: sighting.conversions,
     key: sighting.key,
     declared: sighting.declared&.raw,
     click: sighting.click,
     samples: sighting.samples,
     text: sighting.text,
     part: sighting.part,
     page: sighting.page&.raw,
     target: sighting.target&.raw,
     facts: sighting.facts,
     ended_by_id: nil,
     created_at: now,
     updated_at: now}
  end

  # A corrected link takes the place of the one it stands in for: that one is no longer out, and no longer
  # swept.
  def replace(sightings, links)
    sightings.each do |sighting|
      old = replaced(sighting.replaces) or next
      by = links.fetch(sighting.address.normal_form)
      old.update!(replaced_by_id: by, retired_at: Time.now.utc) unless old.id == by
    end
  end

  # Lists that Orvant hands out hold no personal data: an address in them may be known by what is left of it.
  def replaced(address)
    @workspace.links.find_by(normal_form: address.normal_form) ||
      (masked_links[address.raw] if address.raw.include?(Orvant::PersonalData::MASK))
  end

  def masked_links
    @masked_links ||= @workspace.links.live.where(
      "id IN (?)",
      @workspace.findings.current.where(code: "param/personal-data").select(:link_id)
    )
      .index_by { |link| convention.personal_data.mask(link.address) }
  end

  # A link found anew is out again, whatever was said of it before. Within its workspace SQLite would look
  # through all links.
  def refresh(ids)
    found = Link.where(id: ids)
    found.where.not(retired_at: nil).or(found.where.not(replaced_by_id: nil))
      .update_all(retired_at: nil, replaced_by_id: nil)
    Link.repeat_sightings(ids)
  end

  def afterwards
    if whole?
      ImportEntry.insert_all(entries.map { |entry|
        {
          import_id: @import.id,
          key: entry.key,
          document: entry.to_h
        }
      })
    end
    if @read.pages.any?
      SitePage.insert_all(@read.pages.map { |page|
        {
          workspace_id: @workspace.id,
          import_id: @import.id,
          page: page.address.page,
          document: page.to_h
        }
      })
    end
    end_missing if earlier && !@import.stopping?
    AdRereading.later(@workspace) unless @workspace.convention_version.version == @rules_version
  end

  # What a whole source held before and does not hold now is not out any more.
  def end_missing
    gone = Sighting.joins(:import).where(
      imports: {workspace_id: @workspace.id, source: @source, kind: @kind},
      ended_by_id: nil
    ).where.not(import_id: @import.id)
    kept = identities.to_set
    ids = gone.pluck(:id, :identity, :link_id).reject { |_, identity, _| kept.include?(identity) }
    ids.each_slice(BATCH) { |some| Sighting.where(id: some.map(&:first)).update_all(ended_by_id: @import.id) }
    Link.refresh_provenance(ids.map(&:last).uniq)
    @import.ended = ids.size
  end

  # Of a source that was read in part, nothing can be said to be gone.
  def whole? = WHOLE.include?(@kind) && !@source.empty? && !@read.partial

  def entries = items.map { |sighting| Orvant::Inventory::Difference::Entry.of(sighting) }.uniq(&:key)

  # @return [Import, nil] the last time this source was read
  def earlier
    return unless whole?

    @earlier ||= @workspace.imports.where(kind: @kind, source: @source, state: "done")
      .where.not(id: @import&.id).order(:id).last
  end

  # What an ad or entry has lost since its source was last read is known of its sighting.
  def remember_loss(sighting)
    before = earlier && earlier_entries[Orvant::Inventory::Difference::Entry.of(sighting).key] or return
    loss = Orvant::Inventory::Difference.loss(
      before,
      Orvant::Inventory::Difference::Entry.of(sighting),
      convention
    )
    sighting.facts = sighting.facts.to_h.merge(loss) if loss.any?
  end

  def earlier_entries
    @earlier_entries ||= earlier.entries.to_h do |entry|
      [entry.key, Orvant::Inventory::Difference::Entry.new(**entry.document.transform_keys(&:to_sym))]
    end
  end

  def changes
    return [] unless earlier

    @changes ||= Orvant::Inventory::Difference.between(earlier_entries.values, entries, convention)
      .first(MOST_CHANGES).map(&:to_h)
  end
end
