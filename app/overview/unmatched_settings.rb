# frozen_string_literal: true

# Pages that the settings of a workspace speak of and that nobody has seen, so that nothing is judged by them.
class UnmatchedSettings
  # @param workspace [Workspace]
  def initialize(workspace)
    @workspace = workspace
  end

  # @return [Array<String>] none while no page has been seen at all
  def pages
    last = @workspace.sweeps.finished_whole.maximum(:id)
    seen = @workspace.page_visits.distinct.pluck(:page) |
      LinkTrail.where(sweep_id: last).distinct.pluck(:landing_page)
    return [] if seen.empty?

    spoken_of.reject { |wanted| seen.any? { |page| Orvant::Watching.on?(wanted, page) } }
  end

  private

  def spoken_of
    watching = @workspace.watching
    [
      *@workspace.expected_tags.flat_map { |one| one["pages"].to_a },
      *@workspace.expected_fields.map { |one| one["page"] },
      *watching["goals"].to_a.map { |one| one["page"] },
      *watching["variants"].to_a.flatten
    ].uniq
  end
end
