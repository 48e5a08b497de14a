# frozen_string_literal: true

# The one way from stored links to what the core judges, whoever asks: sweep, effect of a change, learning,
# checks over all links.
class LinkEntries
  # @param link [Link] with its sightings
  # @return [Array<Orvant::Inventory::Sighting>] those that are live
  def self.sightings(link)
    link.judged_sightings || link.sightings.reject(&:ended_by_id).sort_by(&:id).map(&:core)
  end

  # Reads at once what judging needs of many links' sightings, without a record of each.
  #
  # @param links [Array<Link>]
  # @return [Array<Link>] the same
  def self.provide(links)
    rows = Database.among(Sighting, links.map(&:id), :link_id).order(:id)
      .pluck(:link_id, :ended_by_id, *Sighting::JUDGED)
    known = cores(rows.reject { |_, ended, *| ended }.map { |id, _, *facts| [id, *facts] })
    links.each { |link| link.judged_sightings = known.fetch(link.id, []) }
  end

  # @param rows [Array<Array>] the id of a link, then what JUDGED names
  # @return [Hash{Integer => Array<Orvant::Inventory::Sighting>}] by the link's id
  def self.cores(rows)
    rows.group_by(&:first).transform_values do |same|
      same.map { |_, *facts| Sighting.core(Sighting::JUDGED.zip(facts).to_h) }
    end
  end

  # @param workspace [Workspace]
  def initialize(workspace)
    @workspace = workspace
  end

  # @return [Array<Orvant::Checks::Param::Entry>]
  def to_a
    sightings = sightings_by_link
    arrivals = arrivals_by_link
    @workspace.links.swept.order(:id).pluck(:id, :address, :kind).map do |id, address, kind|
      found = sightings.fetch(id, [])
      arrival = Orvant::Address.new(arrivals[id] || address)
      Orvant::Checks::Param::Entry.new(
        id: id,
        kind: kind,
        address: Orvant::Inventory::Samples.put_back(arrival, found),
        sightings: found
      )
    end
  end

  private

  def sightings_by_link
    self.class.cores(@workspace.sightings.live.order(:id).pluck(:link_id, *Sighting::JUDGED))
  end

  # A short link, click counter or out-link is judged where its trail first reaches an own host, a short name
  # on an own host by what it leads to (Trail::Arrival).
  def arrivals_by_link
    ids = LinkTrail.joins(:link).merge(@workspace.links.swept)
      .where("link_trails.judged_address <> links.address").select(:link_id)
    LinkTrail.where(link_id: ids).where.not(judged_address: nil).order(:id)
      .pluck(:link_id, :judged_address).to_h
  end
end
