# frozen_string_literal: true

# The inventory: listed, filtered, looked at, acted on.
class LinksResource < Resource
  include LinkRows

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

  # The links that an act is for: those named, or all that the filters leave.
  def acted_links(wish)
    ids = wish["ids"]
    return workspace.links.where(id: ids.map(&:to_i)) if ids.is_a?(Array)

    filtered_links
  end
end
