# frozen_string_literal: true

# Keeps the fixes of a workspace in step with its findings and its traffic.
class FixLedger
  # @param workspace [Workspace]
  def initialize(workspace)
    @workspace = workspace
  end

  # Groups the current findings into fixes, explains the traffic by them, and counts what each fix wins back.
  #
  # @param sweep [Sweep, nil] the sweep that has just looked: fixes whose findings it no longer saw are proven by it
  def refresh(sweep: nil)
    ActiveRecord::Base.transaction do
      found = group_findings
      prove(found, sweep) if sweep
      causes = TrafficExplanation.new(@workspace).explain
      group_causes(causes)
      count_impact
    end
  end

  private

  def group_findings
    findings = @workspace.findings.standing.includes(link: :sightings).to_a
    Orvant::Fix::Grouping.of(findings.map(&:entry)).map do |group|
      fix = keep(group, findings_count: group.findings.size)
      Finding.where(id: group.findings).update_all(fix_id: fix.id)
      fix.id
    end
  end

  def keep(group, **counts)
    fix = @workspace.fixes.find_or_initialize_by(root: group.root)
    fix.state = "returned" if fix.state == "proven" && group.findings.any?
    fix.update!(weight: group.weight, codes: group.codes, action: group.action, value: group.value, at: group.at,
      place: group.place.to_s, owner: group.owner.to_s, **counts)
    fix
  end

  # A fix is proven when the checks that failed were run again on all that it touches, and none fails any more.
  def prove(standing, sweep)
    @workspace.fixes.where.not(id: standing).where.not(state: "proven").each do |fix|
      next if fix.findings.empty?

      fix.update!(state: "proven", findings_count: 0,
        proof: {"sweep_id" => sweep.id, "at" => Time.now.utc.iso8601, "looked_at" => looked_at(fix, sweep)})
    end
  end

  def looked_at(fix, sweep)
    links = fix.findings.filter_map { |finding| finding.link&.then { |link| link.replaced_by_id || link.id } }
    sweep.link_trails.where(link_id: links).count + sweep.page_visits.where(page: fix.findings.filter_map(&:page)).count + sweep.rehearsal_runs.count
  end

  # Causes that no finding on a link explains, such as an own host as referrer, are fixes of their own.
  def group_causes(causes)
    causes.select(&:remedy).group_by(&:root).each do |root, same|
      cause = same.first
      keep(Orvant::Fix.new(root: root, codes: [cause.code], weight: cause.weight, action: cause.remedy.action,
        value: cause.remedy.value, at: cause.remedy.at, place: cause.remedy.place, owner: "", findings: []))
    end
  end

  def count_impact
    sums = Hash.new { |hash, root| hash[root] = {sessions: 0, conversions: 0, revenue: 0, shared_sessions: 0} }
    TrafficGroups.new(@workspace).groups.each { |group| group.roots.each { |root| add(sums[root], group) } }
    @workspace.fixes.each { |fix| fix.update!(sums[fix.root]) }
  end

  # What one of several fixes may win back is told apart: nothing is divided between them.
  def add(sum, group)
    return sum[:shared_sessions] += group.sessions if group.roots.size > 1

    %i[sessions conversions revenue].each { |measure| sum[measure] += group.public_send(measure) }
  end
end
