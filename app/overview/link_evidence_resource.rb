# frozen_string_literal: true

# All that every stop of the job knows of one link.
class LinkEvidenceResource < Resource
  include LinkRows

  get "/api/workspaces/:workspace/links/:id" do
    json(link_detail(workspace.links.find(params["id"])))
  end

  private

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
end
