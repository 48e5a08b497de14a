# frozen_string_literal: true

# The links that the filters of the inventory leave.
class LinkQuery
  # Columns that a filter of the same name narrows.
  COLUMNS = %w[kind owner outcome host status].freeze

  # @param workspace [Workspace]
  # @param filters [Hash{String => String}] as the address bar has them; an empty one narrows nothing
  def initialize(workspace, filters)
    @workspace = workspace
    @filters = filters.reject { |_, value| value.to_s.empty? }
  end

  # @return [ActiveRecord::Relation<Link>]
  def links
    links = excluded? ? @workspace.links.live.where.not(excluded_at: nil) : @workspace.links.swept
    links = links.where(@filters.slice(*COLUMNS))
    links = links.where(id: labelled) if @filters.key?("label")
    links = links.where(weight: Link::WEIGHTS[@filters["weight"]]) if Link::WEIGHTS.key?(@filters["weight"])
    found_among(spelled_among(links))
  end

  private

  def excluded? = @filters["shown"] == "excluded"

  def labelled = LinkLabel.where(workspace_id: @workspace.id, label: @filters["label"]).select(:link_id)

  def found_among(links)
    links = links.where("findings_count > 0") if @filters["wrong"] == "1"
    links = links.where(id: findings.select(:link_id)) if waived? || @filters.key?("code")
    links = links.where(id: grouped) if @filters.key?("group")
    if @filters.key?("fix")
      links = links.where(id: @workspace.findings.where(fix_id: @filters["fix"]).select(:link_id))
    end
    links
  end

  def waived? = @filters["waived"] == "1"

  def findings
    findings = waived? ? @workspace.findings.waived : @workspace.findings.standing
    @filters.key?("code") ? findings.where(code: @filters["code"]) : findings
  end

  # Those that one finding over many links names.
  def grouped = (@workspace.findings.find_by(id: @filters["group"])&.place || {})["links"].to_a

  def spelled_among(links)
    text = @filters["q"].to_s.strip
    return links if text.empty?

    pattern = "%#{Link.sanitize_sql_like(text)}%"
    said = %i[address place].map { |column| Link.arel_table[column].matches(pattern, "\\") }
    links.where(said.reduce(:or))
  end
end
