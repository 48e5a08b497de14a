# frozen_string_literal: true

class Api
  LINK_SORTS = %w[address host kind place owner spend outcome weight findings_count].to_h { |name| [name, name] }.freeze
  LINK_COLUMNS = %w[address kind found owner spend outcome weight findings].freeze

  helpers do
    def filtered_links
      links = workspace.links.live
      %w[kind owner outcome host].each { |name| links = links.where(name => params[name]) unless params[name].to_s.empty? }
      links = links.where(weight: Link::WEIGHTS[params["weight"]]) if Link::WEIGHTS.key?(params["weight"])
      links = links.where("findings_count > 0") if params["wrong"] == "1"
      links = links.where(id: workspace.findings.current.where(code: params["code"]).select(:link_id)) unless params["code"].to_s.empty?
      links = links.where(id: workspace.findings.where(fix_id: params["fix"]).select(:link_id)) unless params["fix"].to_s.empty?
      text = params["q"].to_s.strip
      text.empty? ? links : links.where("(links.address LIKE :text ESCAPE '\\' OR links.place LIKE :text ESCAPE '\\')", text: "%#{Link.sanitize_sql_like(text)}%")
    end

    def link_row(link)
      {"id" => link.id, "address" => link.address, "parts" => anatomy(link.address), "kind" => link.kind,
       "place" => link.place, "owner" => link.owner, "spend" => link.spend,
       "outcome" => link.outcome, "weight" => link.weight_name, "findings" => link.findings_count,
       "swept_at" => link.swept_at&.iso8601}
    end

    def link_detail(link)
      trail = link.last_trail
      {"link" => link_row(link), "retired" => !link.retired_at.nil?, "replaced_by" => link.replaced_by_id,
       "sightings" => link.sightings.order(:id).map { |one| {"kind" => one.kind, "place" => one.place, "owner" => one.owner, "spend" => one.spend, "since" => one.since&.iso8601} },
       "findings" => link.findings.current.order(:id).map { |one| link_finding(one) },
       "trail" => trail && trail_document(trail),
       "judged" => trail&.judged_address && {"address" => trail.judged_address, "parts" => anatomy(trail.judged_address)},
       "traffic" => link_traffic(link)}
    end

    def link_finding(finding)
      finding.as_document.merge("corrected_parts" => finding.corrected_address && anatomy(finding.corrected_address))
    end

    def trail_document(trail)
      roles = convention.carriers.transform_values(&:name)
      hops = trail.hops.map { |hop| hop.merge("params" => hop["params"].map { |fate| fate.merge("role" => roles[fate["name"]]) }) }
      last = Orvant::Address.new(trail.final_address).pairs.map { |pair| {"name" => pair.name, "value" => pair.value, "role" => roles[pair.name]} }
      trail.as_document.merge("hops" => hops, "landing_params" => last,
        "convention_version" => trail.sweep.convention_version.version)
    end

    # Sessions whose cause names this link.
    def link_traffic(link)
      rows = workspace.traffic_rows.where("cause <> '' AND EXISTS (SELECT 1 FROM json_each(traffic_rows.causes) one, json_each(one.value, '$.links') id WHERE id.value = ?)", link.id)
      rows.group(:cause).sum(:sessions).map { |cause, sessions| {"cause" => cause, "sessions" => sessions} }
    end
  end

  get "/api/workspaces/:workspace/links" do
    links = filtered_links
    rows, cursor = paged(links, LINK_SORTS)
    json("links" => rows.map { |link| link_row(link) }, "next_cursor" => cursor, "total" => links.count)
  end

  get "/api/workspaces/:workspace/links/facets" do
    links = workspace.links.live
    codes = workspace.findings.current.where.not(link_id: nil).group(:code).distinct.count(:link_id)
    json("kind" => links.group(:kind).count, "owner" => links.group(:owner).count,
      "outcome" => links.group(:outcome).count, "code" => codes)
  end

  get "/api/workspaces/:workspace/links.csv" do
    rows = filtered_links.order(:id).find_each.lazy.map do |link|
      [link.address, link.kind, link.place, link.owner, format("%.2f", link.spend / 100.0), link.outcome,
        link.weight_name, link.findings_count]
    end
    csv("links.csv", LINK_COLUMNS, rows)
  end

  get "/api/workspaces/:workspace/links/:id" do
    json(link_detail(workspace.links.find(params["id"])))
  end
end
