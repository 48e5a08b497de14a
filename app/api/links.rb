# frozen_string_literal: true

# The inventory: listed, filtered, looked at, acted on.
class LinksResource < Resource
  # The longest label: it stands beside others in one cell.
  LONGEST_LABEL = 100
  LINK_SORTS = %w[address host kind place owner spend outcome weight findings_count].to_h { |name| [name, name] }.freeze
  LINK_COLUMNS = %w[address kind found owner spend outcome looked weight findings labels status].freeze

  get "/api/workspaces/:workspace/links" do
    links = filtered_links
    rows, cursor = paged(links.includes(:labels), LINK_SORTS)
    json("links" => link_rows(rows), "next_cursor" => cursor, "total" => links.count)
  end

  get "/api/workspaces/:workspace/links/facets" do
    json(LinkFacets.new(workspace).document)
  end

  get "/api/workspaces/:workspace/links.csv" do
    rows = filtered_links.includes(:labels).order(:id).find_each.lazy.map do |link|
      [link.address,
        link.kind,
        link.place,
        link.owner,
        format("%.2f", link.spend / 100.0),
        link.outcome,
        link.look,
        link.weight_name, link.findings_count, link.labels.map(&:label).sort.join(" "), link.status]
    end
    long_csv("links.csv", LINK_COLUMNS, rows)
  end

  get "/api/workspaces/:workspace/links/:id" do
    json(link_detail(workspace.links.find(params["id"])))
  end

  post "/api/workspaces/:workspace/links/acts" do
    wish = json_body
    act, value = wish["act"].to_s, wish["value"].to_s.gsub(/[[:cntrl:]]+/, " ").strip[0, LONGEST_LABEL]
    unless LinkAct::ACTS.include?(act)
      raise Problem.new(:unusable_input, "An act is one of: #{LinkAct::ACTS.join(", ")}.")
    end
    raise Problem.new(:unusable_input, "Name the label.") if act.end_with?("label") && value.empty?

    status 201
    json(LinkAct.call(workspace, act, acted_links(wish), value: value).as_document)
  end

  post "/api/workspaces/:workspace/links/acts/:id/undo" do
    act = workspace.link_acts.find(params["id"])
    act.undo unless act.undone_at
    json(act.as_document)
  end

  post "/api/workspaces/:workspace/click-address" do
    json(ClickAddressTrial.new(workspace.convention).call(json_body))
  end

  private

  def filtered_links = LinkQuery.new(workspace, params).links

  def link_rows(links)
    ids = links.map(&:id)
    heaviest, samples = workspace.findings.heaviest(ids), Sighting.samples_of(ids)
    links.map { |link| link_row(link, heaviest[link.id], samples.fetch(link.id, {})) }
  end

  # @param samples [Hash] of Orvant::Inventory::Samples
  def link_row(
    link, heaviest = workspace.findings.heaviest([link.id])[link.id],
    samples = Sighting.samples_of([link.id]).fetch(link.id, {})
  )
    {"id" => link.id, "address" => link.address, "parts" => marked(link.address, samples),
     "kind" => link.kind,
     "place" => link.place, "owner" => link.owner, "spend" => link.spend,
     "outcome" => link.outcome,
     "look" => link.look,
     "weight" => link.weight_name,
     "findings" => link.findings_count,
     "heaviest" => heaviest.to_s,
     "status" => link.status,
     "excluded" => !link.excluded_at.nil?,
     "labels" => link.labels.map(&:label).sort,
     "swept_at" => link.swept_at&.iso8601}
  end

  # An address in its parts, examples marked with the tokens in whose place they stand.
  def marked(address, samples)
    parts = anatomy(address)
    return parts if samples.empty?

    names = parts.select { |one| one["part"] == "name" }.to_h { |one| [one["pair"], one["text"]] }
    Orvant::Export::Masking::Masked.new(parts.map { |one|
      sample = samples[Orvant::Address::Pair.decode(names[one["pair"]].to_s)] if one["part"] == "value"
      (sample && sample["filled"] == one["text"]) ? one.merge("sample" => sample["written"]) : one
    })
  end

  def link_detail(link)
    trail = link.last_trail
    {"link" => link_row(link), "retired" => !link.retired_at.nil?, "replaced_by" => link.replaced_by_id,
     "sightings" => link.sightings.order(:ended_by_id, :id).map(&:as_document),
     "findings" => link.findings.current.order(:id).map { |one| finding_document(one) },
     "trail" => trail && trail_document(trail), "visitors" => trail ? visitors_of(trail) : [],
     "judged" => trail&.judged_address && {
       "address" => trail.judged_address,
       "parts" => anatomy(trail.judged_address)
     },
     "read" => trail && LinkReading.new(trail, workspace).document,
     "traffic" => TrafficCauses.of_link(workspace, link.id),
     "visits" => LinkVisits.new(link, trail&.judged_address || link.address).document,
     "rules" => LinkRules.new(link, convention).document,
     **clicks(link, trail),
     "signposts" => workspace.signposts.where(link_id: link.id, taken_down_at: nil).map(&:as_document)}
  end

  # Whether whoever opens the link may have to pay for it, and of which hosts on its way nobody has said so.
  def clicks(link, trail)
    hosts = [link.address, trail&.final_address].compact.map { |text| Orvant::Address.new(text).host }.uniq
    may_charge = ClickHost.documents(workspace).select { |one| hosts.include?(one["host"]) }
    {
      "may_charge" => may_charge,
      "costly" => may_charge.any? || hosts.any? { |host| convention.billed_hosts.cover?(host) }
    }
  end

  def trail_document(trail)
    roles = convention.carriers.transform_values(&:name)
    hops = trail.hops.map do |hop|
      hop.merge("params" => hop["params"].map { |fate| fate.merge("role" => roles[fate["name"]]) })
    end
    last = Orvant::Address.new(trail.final_address).pairs
      .map { |pair| {"name" => pair.name, "value" => pair.value, "role" => roles[pair.name]} }
    trail.as_document.merge("hops" => hops, "landing_params" => last,
      "convention_version" => trail.sweep.convention_version.version)
  end

  # The same link, followed as others in the same sweep, and the hop at which they part from the first.
  def visitors_of(first)
    first.link.link_trails.where(sweep_id: first.sweep_id).where.not(id: first.id).order(:id).map do |other|
      trail_document(other).merge("parts_at" => first.trail.parts_from(other.trail))
    end
  end

  # The links that an act is for: those named, or all that the filters leave.
  def acted_links(wish)
    ids = wish["ids"]
    return workspace.links.where(id: ids.map(&:to_i)) if ids.is_a?(Array)

    filtered_links
  end
end
