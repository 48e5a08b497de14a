# frozen_string_literal: true

# How many links there are of each kind, owner, outcome and status, with each finding and each label: what the
# list can be narrowed by.
class LinkFacets
  COLUMNS = %w[kind owner outcome status].freeze

  # @param workspace [Workspace]
  def initialize(workspace)
    @workspace = workspace
    @links = workspace.links.swept
  end

  # @return [Hash{String => Object}] counts by value for each of COLUMNS, code and label; excluded: Integer
  def document
    {**of_columns,
      "code" => @workspace.findings.standing.where.not(link_id: nil).group(:code).distinct.count(:link_id),
      "label" => LinkLabel.where(workspace_id: @workspace.id, link_id: @links.select(:id)).group(:label).count,
      "excluded" => @workspace.links.live.where.not(excluded_at: nil).count}
  end

  private

  # Counted in one reading.
  def of_columns
    together = @links.group(*COLUMNS).count
    COLUMNS.each_with_index.to_h do |name, index|
      [name, together.each_with_object(Hash.new(0)) { |(values, count), sums| sums[values[index]] += count }]
    end
  end
end
