# frozen_string_literal: true

# Every workspace with what is wrong in it now, and when it was last swept.
class WorkspaceList
  # @param workspaces [ActiveRecord::Relation<Workspace>] those that may be seen
  def initialize(workspaces)
    @workspaces = workspaces
  end

  # @return [Array<Hash{String => Object}>] by title, those that are put away last
  def call
    breaks = Finding.standing.where(weight: "breaks").group(:workspace_id).count
    links = Link.live.group(:workspace_id).count
    fixes = Fix.to_do.group(:workspace_id).count
    swept = Sweep.finished_whole.group(:workspace_id).maximum(:finished_at)
    @workspaces.order(:title).sort_by { |one| one.archived_at ? 1 : 0 }.map do |one|
      {"name" => one.name,
       "title" => one.title,
       "archived" => !one.archived_at.nil?,
       "links" => links.fetch(one.id, 0),
       "breaks" => breaks.fetch(one.id, 0),
       "fixes" => fixes.fetch(one.id, 0), "swept_at" => swept[one.id]&.iso8601}
    end
  end
end
