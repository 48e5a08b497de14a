# frozen_string_literal: true

# Judges all links and pages of the workspace together, when each has been looked at by itself.
class InventoryPhase
  # @param sweep [Sweep]
  def initialize(sweep)
    @sweep = sweep
    @workspace = sweep.workspace
  end

  # Replaces what was found over all links before. A sweep of some links only says nothing about all.
  def call
    return unless @sweep.scope["links"] == "all"

    entries = LinkEntries.new(@workspace).to_a
    found = Orvant::Checks::Param.judge_all(
      entries,
      @sweep.convention_version.convention,
      sessions: @workspace.sessions_by_value
    )
    found += over_pages
    ActiveRecord::Base.transaction do
      @workspace.findings.current.where(over_all: true).update_all(current: false, absent_in_id: @sweep.id)
      Finding.keep(found, workspace_id: @workspace.id, sweep_id: @sweep.id, over_all: true)
      Sweep.where(id: @sweep.id).update_all(["findings_count = findings_count + ?", found.size])
    end
  end

  private

  # What shows over many pages and rehearsals.
  def over_pages
    visits = @sweep.page_visits.map { |one| Orvant::Browser::PageVisit.from_h(one.visit) }
    runs = @sweep.rehearsal_runs.map { |one| Orvant::Rehearsal::Run.from_h(one.run).signals }
    Orvant::Checks::Tag.judge_all(
      visits,
      runs,
      @workspace.watched,
      @workspace.tag_signatures.to_h { |one| [one.tag, one.name] }
    )
  end
end
