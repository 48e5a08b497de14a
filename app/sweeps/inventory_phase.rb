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

    found = over_links(@sweep.convention_version) + over_ways + over_pages
    ActiveRecord::Base.transaction do
      supersede(found)
      Finding.keep(found, workspace_id: @workspace.id, sweep_id: @sweep.id, over_all: true)
      Sweep.where(id: @sweep.id).update_all(["findings_count = findings_count + ?", found.size])
    end
  end

  private

  def supersede(found)
    marks = found.map { |one| [one.code, one.root, one.parameter] }
    earlier = @workspace.findings.last_word(@sweep).where(over_all: true)
      .select { |one| looked?(one) || marks.include?([one.code, one.root, one.parameter]) }
    LookedAgain.new(@sweep).settle(earlier, marks) { |version, _| over_links(version) }
  end

  # Pages that did not open, rehearsals that broke off and links that did not land this time say nothing.
  def looked?(finding)
    place = finding.place.to_h
    case finding.code
    when "tag/uneven" then (place["pages"].to_a - opened).empty?
    when "trail/wrong-page" then (place["links"].to_a & out - landed).empty?
    else true
    end
  end

  def opened = @opened ||= visits.reject(&:reason).map(&:page)

  def out = @out ||= @workspace.links.live.ids

  def landed = @landed ||= @sweep.link_trails.where(outcome: "landed").distinct.pluck(:link_id)

  def visits
    @visits ||= @sweep.page_visits.map { |one| Orvant::Browser::PageVisit.from_h(one.visit) }
  end

  def runs = @runs ||= @sweep.rehearsal_runs.map { |one| Orvant::Rehearsal::Run.from_h(one.run) }

  def over_links(version)
    @entries ||= LinkEntries.new(@workspace).to_a
    (@over_links ||= {})[version.id] ||= Orvant::Checks::Param.judge_all(
      @entries,
      version.convention,
      sessions: @workspace.sessions_by_value
    )
  end

  # What shows over the ways of many links: of those that begin at an own page and end at another.
  def over_ways
    rows = @sweep.link_trails.joins(:link).where(outcome: "landed").order(:link_id)
      .pluck(:link_id, "links.address", :final_address)
    ways = rows.filter_map do |id, *texts|
      from, to = texts.map { |text| Orvant::Address.new(text) }
      own = [from, to].all? { |one| @sweep.convention_version.convention.own_hosts.cover?(one.host) }
      [id, from, to] if own && from.page != to.page
    end
    Orvant::Checks::Trail::WrongPage.over(ways.uniq(&:first))
  end

  # What shows over many pages and rehearsals.
  def over_pages
    Orvant::Checks::Tag.judge_all(
      visits,
      runs.map(&:signals),
      @workspace.watched,
      @workspace.tag_signatures.to_h { |one| [one.tag, one.name] }
    )
  end
end
