# frozen_string_literal: true

# Where a workspace stands: what is there at each stop of the job, and what is wrong there now.
class WorkspaceSummary
  # @param workspace [Workspace]
  def initialize(workspace)
    @workspace = workspace
  end

  # @return [Hash{String => Object}]
  def document
    Waiver.end_due(@workspace)
    {"name" => @workspace.name, "title" => @workspace.title, "currency" => @workspace.currency,
     "convention_version" => @workspace.convention_version.version, "waived" => @workspace.findings.waived.count,
     "over_all" => @workspace.findings.standing.where(over_all: true).count, "proposed_values" => @workspace.proposed_values.where(state: "open").count,
     "stops" => {"links" => links, "tags" => tags, "rehearsals" => rehearsals, "traffic" => traffic,
                 "fixes" => fixes}, "sweep" => last_sweep&.as_document}
  end

  private

  def stop(total, wrong) = {"total" => total, "wrong" => wrong}

  def links = stop(@workspace.links.live.count, @workspace.links.live.where("findings_count > 0").count)

  def tags = stop(@workspace.page_visits.distinct.count(:page), current("tag").or(current("page")).distinct.count(:page))

  def rehearsals = stop(@workspace.rehearsal_scripts.count, current("journey").distinct.count(:rehearsal))

  def traffic = stop(@workspace.traffic_rows.sum(:sessions), @workspace.traffic_rows.where.not(cause: "").sum(:sessions))

  def fixes = stop(@workspace.fixes.count, @workspace.fixes.where.not(state: "proven").count)

  def current(family) = @workspace.findings.standing.where("code LIKE ?", "#{family}/%")

  def last_sweep = @workspace.active_sweep || @workspace.sweeps.order(:id).last
end
