# frozen_string_literal: true

# What the sweeps know of each link, as far as traffic can show it. Findings that are mended by now count too:
# the rows of the weeks before stay as they were recorded.
class LinkFacts
  # @param workspace [Workspace]
  def initialize(workspace)
    @workspace = workspace
    @convention = workspace.convention
  end

  # @return [Array<Orvant::Traffic::LinkFact>] of links that have been swept
  def facts
    swept = LinkTrail.joins(:sweep).where(sweeps: {workspace_id: @workspace.id})
    first = swept.group(:link_id).select("MIN(link_trails.id)")
    trails = LinkTrail.where(id: first).index_by(&:link_id)
    @workspace.links.where(id: trails.keys)
      .includes(:sightings, :findings)
      .map { |link| link_fact(link, trails.fetch(link.id)) }
  end

  private

  def link_fact(link, trail)
    found = link.findings.sort_by(&:id).reverse.reject { |one| one.place["identifiers"] }.map do |finding|
      Orvant::Traffic::Known.new(
        code: finding.code,
        role: finding.place["role"],
        root: Orvant::Fix::Grouping.root(finding.entry)
      )
    end
    Orvant::Traffic::LinkFact.new(id: link.id, address: link.address, kind: link.kind, place: link.place,
      page: trail.landing_page[/\A[^?#]*/], since: link.sightings.filter_map(&:since).min,
      carried: carried(trail), found: found, meant: meant(link, trail))
  end

  def carried(trail)
    trail.judged_address ? @convention.values_in(Orvant::Address.new(trail.judged_address)) : {}
  end

  # What the link should carry: its values with every correction that is known.
  def meant(link, trail)
    corrections = link.findings.select(&:correction)
      .to_h { |finding| [finding.place["role"], finding.correction] }
    carried(trail).merge(corrections).reject { |_, value| value.empty? }
      .then { |values| corrections.empty? ? {} : values }
  end
end
