# frozen_string_literal: true

# Brings the fixes of a workspace in step with its findings, and the channels and causes of its traffic with
# what is known of its links. Works in the worker, on what has changed, in transactions that keep nobody
# waiting.
class Explaining
  # Findings that are given to their fixes in one transaction.
  BATCH = 100
  # Those that change in one statement.
  MOST_CHANGED = 1_000

  class << self
    # Says that something has changed, and has it explained soon, once for all that has changed until then.
    #
    # @param workspace [Workspace]
    def later(workspace)
      workspace.update_columns(changed_at: Time.now.utc)
      Queues.put_once(ExplainJob.new(workspace.id))
    end
  end

  # @param workspace [Workspace]
  def initialize(workspace)
    @workspace = workspace
  end

  # @return [void]
  def call
    began = Time.now.utc
    Waiver.end_due(@workspace)
    end_gone
    touched = group_findings
    TrafficExplanation.new(@workspace).explain do |cause|
      touched << Fix.begin(@workspace, Orvant::Fix.of(cause)).id
    end
    claimed = TrafficClaims.new(@workspace).findings
    touched += claimed.map { |finding| claim_fix(Orvant::Fix.of(finding)).id }
    FixStates.new(@workspace).settle(touched.uniq, claimed: claimed.map(&:root))
    count_impact
    @workspace.update_columns(explained_at: began, explaining_failed_at: nil, explaining_problem: nil)
    ValueDay.renew(@workspace)
    AskedPeriod.renew(@workspace)
  end

  private

  # What was found on a link that is out no more needs no work; it is found again if the link comes back.
  def end_gone
    retired = @workspace.links.where.not(retired_at: nil).where(replaced_by_id: nil).select(:id)
    @workspace.findings.unsettled.where(link_id: retired)
      .in_batches(of: MOST_CHANGED) { |some| some.update_all(current: false, ended: true) }
    back = @workspace.findings.where(ended: true, link_id: @workspace.links.live.select(:id))
    back.where(unasked: nil)
      .in_batches(of: MOST_CHANGED) { |some| some.update_all(current: true, ended: false) }
    back.in_batches(of: MOST_CHANGED) { |some| some.update_all(ended: false) }
    scripts = @workspace.rehearsal_scripts.pluck(:name)
    @workspace.findings.current.where.not(rehearsal: [nil, *scripts]).update_all(current: false, ended: true)
  end

  # @return [Array<Integer>] ids of the fixes that have got findings
  def group_findings
    touched = []
    loop do
      without = @workspace.findings.current.where(fix_id: nil)
      findings = without.includes(link: :sightings).order(:id).limit(BATCH).to_a
      return touched if findings.empty?

      touched |= ActiveRecord::Base.transaction { group(findings) }
    end
  end

  def group(findings)
    Orvant::Fix::Grouping.of(findings.map(&:entry)).map do |group|
      fix = Fix.begin(@workspace, group)
      Finding.where(id: group.findings).update_all(fix_id: fix.id)
      fix.id
    end
  end

  # What is likely changes with what the sweeps find.
  def claim_fix(group) = Fix.begin(@workspace, group).tap { |fix| fix.update!(action: group.action) }

  def count_impact
    sums = Hash.new do |hash, root|
      hash[root] = {sessions: 0, conversions: 0, revenue: 0, shared_sessions: 0}
    end
    TrafficGroups.new(@workspace).groups.each { |group| group.roots.each { |root| add(sums[root], group) } }
    @workspace.fixes.find_each do |fix|
      fix.assign_attributes(sums[fix.root])
      fix.save! if fix.changed?
    end
  end

  # What one of several fixes may win back is told apart: nothing is divided between them.
  def add(sum, group)
    return sum[:shared_sessions] += group.sessions if group.roots.size > 1

    %i[sessions conversions revenue].each { |measure| sum[measure] += group.public_send(measure) }
  end
end
