# frozen_string_literal: true

# All live links of a workspace as the core judges them, read in few statements.
class LinkEntries
  # @param workspace [Workspace]
  def initialize(workspace)
    @workspace = workspace
  end

  # @return [Array<Orvant::Checks::Param::Entry>]
  def to_a
    sightings = sightings_by_link
    arrivals = arrivals_by_link
    @workspace.links.swept.order(:id).pluck(:id, :address, :kind).map do |id, address, kind|
      Orvant::Checks::Param::Entry.new(id: id, kind: kind, address: Orvant::Address.new(arrivals[id] || address), sightings: sightings.fetch(id, []))
    end
  end

  private

  # Rules look at the page, account and network of a sighting; most links have none of them.
  def sightings_by_link
    rows = @workspace.sightings.live.where("page IS NOT NULL OR facts IS NOT NULL").pluck(:link_id, :kind, :page, :facts)
    rows.group_by(&:first).transform_values do |same|
      same.map { |_, kind, page, facts| Orvant::Inventory::Sighting.new(kind: kind, page: page && Orvant::Address.new(page), facts: facts) }
    end
  end

  # A short link or click counter is judged where its trail first reaches an own host.
  def arrivals_by_link
    hosts = @workspace.links.swept.distinct.pluck(:host).select { |host| @workspace.convention.relay_hosts.cover?(host) }
    ids = @workspace.links.swept.where(host: hosts).select(:id)
    LinkTrail.where(link_id: ids).where.not(judged_address: nil).order(:id).pluck(:link_id, :judged_address).to_h
  end
end
