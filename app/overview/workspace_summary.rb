# frozen_string_literal: true

# Where a workspace stands: what is there at each stop of the job, and what is wrong there now.
class WorkspaceSummary
  NOT_LOOKED_AT = "not looked at"
  NO_TAG = "no tag described"
  NONE_EXPECTED = "no tag expected"
  NOT_EXPLAINED = "not explained yet"

  # @param workspace [Workspace]
  def initialize(workspace)
    @workspace = workspace
  end

  # @return [Hash{String => Object}]
  def document
    {"name" => @workspace.name,
     "title" => @workspace.title,
     "currency" => @workspace.currency,
     "time_zone" => @workspace.pace.to_h["time_zone"],
     "convention_version" => @workspace.convention_version.version,
     "waived" => @workspace.findings.waived.count,
     "over_all" => @workspace.findings.standing.where(over_all: true).count,
     "proposed_values" => @workspace.proposed_values.where(state: "open").count,
     "explained" => explained, "senders" => @workspace.senders.unknown.count,
     "stops" => {"links" => links, "tags" => tags, "rehearsals" => rehearsals, "traffic" => traffic,
                 "fixes" => fixes}, "sweep" => last_sweep&.as_document}
  end

  private

  # How far findings, fixes and traffic are in step with what is stored.
  def explained
    changed, explained = @workspace.changed_at, @workspace.explained_at
    behind = !changed.nil? && (explained.nil? || explained < changed)
    failed = behind && !@workspace.explaining_failed_at.nil? && @workspace.explaining_failed_at >= changed
    {"up_to" => explained&.iso8601,
     "pending" => behind && !failed,
     "problem" => (failed ? @workspace.explaining_problem : nil)}
  end

  # @param unknown [String, nil] why nothing can be said of it yet
  def stop(total, wrong, unknown = nil) = {"total" => total, "wrong" => wrong, "unknown" => unknown}

  def links
    live = @workspace.links.live
    stop(
      live.count,
      live.where("findings_count > 0").count,
      (NOT_LOOKED_AT if live.where.not(swept_at: nil).none?)
    )
  end

  def tags
    pages = @workspace.page_visits.distinct.count(:page)
    unknown = if @workspace.signatures.empty? then NO_TAG
    elsif @workspace.expected_tags.empty? then NONE_EXPECTED
    elsif pages.zero? then NOT_LOOKED_AT
    end
    stop(pages, current("tag").or(current("page")).distinct.count(:page), unknown)
  end

  def rehearsals
    played = RehearsalRun.where(rehearsal_script_id: @workspace.rehearsal_scripts.select(:id)).exists?
    stop(
      @workspace.rehearsal_scripts.count,
      current("journey").distinct.count(:rehearsal),
      (NOT_LOOKED_AT unless played)
    )
  end

  def traffic
    combinations = @workspace.combinations
    wrong = @workspace.traffic_days.joins(:explanation).where.not(explanations: {cause: ""}).sum(:sessions)
    stop(combinations.sum(:sessions), wrong, (NOT_EXPLAINED if combinations.where(told: false).exists?))
  end

  def fixes
    stop(
      @workspace.fixes.count,
      @workspace.fixes.to_do.count,
      (NOT_LOOKED_AT if @workspace.sweeps.where(state: "done").none? && @workspace.fixes.none?)
    )
  end

  def current(family) = @workspace.findings.standing.where("code LIKE ?", "#{family}/%")

  def last_sweep = @workspace.active_sweep || @workspace.sweeps.order(:id).last
end
