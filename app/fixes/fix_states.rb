# frozen_string_literal: true

# Settles what is to be said of each fix from what has become of its findings.
class FixStates
  # Findings of a fix that its places and owners are told from.
  SAMPLE = 200
  BATCH = 15

  # standing: findings to work at · waived: findings that may stand · absent: looked for again and not there ·
  # ended: their subject is gone · unasked: nobody asks any more whether they are there · superseded: others
  # stand for them · unseen: none of it, so that nothing can be said yet · proof: the last sweep that looked.
  Tally = Struct.new(:standing, :waived, :absent, :ended, :unasked, :superseded, :unseen, :proof)
  NONE = Tally.new(0, 0, 0, 0, 0, 0, 0, nil).freeze

  # @param workspace [Workspace]
  def initialize(workspace)
    @workspace = workspace
  end

  # @param touched [Array<Integer>] ids of fixes whose findings are others now: what is to be done is worked
  #   out anew
  # @param claimed [Array<String>] roots of what networks claim beyond what was found
  def settle(touched, claimed: [])
    tallies = self.tallies
    causes = claimed.to_set |
      Explanation::Root.where(explanation_id: @workspace.explanations.where.not(cause: "").select(:id))
        .distinct.pluck(:root)
    @workspace.fixes.order(:id).each_slice(BATCH) do |some|
      ActiveRecord::Base.transaction do
        some.each { |fix| settle_one(fix, tallies.fetch(fix.id, NONE), touched.include?(fix.id), causes) }
      end
    end
  end

  private

  def tallies
    today = Date.current
    counts = @workspace.findings.where.not(fix_id: nil).group(:fix_id).pluck(:fix_id, Arel.sql(sums(today)))
    counts.to_h { |id, *figures| [id, Tally.new(*figures)] }
  end

  def sums(today)
    yes, no, day = [true, false, today].map { |value| Finding.connection.quote(value) }
    waived = "(findings.waived_until IS NOT NULL AND findings.waived_until >= #{day})"
    # What is left out of sweeps is not asked for.
    out = "(findings.link_id IN (#{@workspace.links.where.not(excluded_at: nil).select(:id).to_sql}) AND NOT over_all)"
    past = "current = #{no} AND ended = #{no}"
    gone = "#{past} AND superseded_in_id IS NULL"
    [
      "current = #{yes} AND NOT #{waived} AND NOT #{out}",
      "current = #{yes} AND #{waived}",
      "#{gone} AND absent_in_id IS NOT NULL AND unasked IS NULL",
      "current = #{no} AND ended = #{yes}",
      "(current = #{yes} AND NOT #{waived} AND #{out}) OR (#{gone} AND unasked IS NOT NULL)",
      "#{past} AND superseded_in_id IS NOT NULL",
      "#{gone} AND absent_in_id IS NULL AND unasked IS NULL"
    ].map { |condition| "SUM(CASE WHEN #{condition} THEN 1 ELSE 0 END)" }.push("MAX(absent_in_id)").join(", ")
  end

  def settle_one(fix, tally, touched, causes)
    count = tally.standing
    work_out(fix) if touched || (fix.findings_count != count && count.positive?)
    state = state(fix, tally, causes)
    fix.assign_attributes(
      state: state,
      findings_count: count,
      proof: (state == "proven") ? proof(fix, tally) : fix.proof
    )
    fix.save! if fix.changed?
  end

  def state(fix, tally, causes)
    return fix.comes_back? ? "returned" : "open" if tally.standing.positive?
    return "let_stand" if tally.waived.positive?
    return "no_longer_asked" if tally.unasked.positive?
    # Of what no check found on a link, the rows themselves tell.
    return rows_state(fix, causes) if tally == NONE
    return fix.state if tally.unseen.positive? && tally.absent.zero? && tally.ended.zero?

    tally.absent.positive? ? "proven" : "ended"
  end

  def rows_state(fix, causes) = causes.include?(fix.root) ? "open" : "ended"

  def proof(fix, tally)
    return fix.proof if fix.proof && fix.proof["sweep_id"] == tally.proof

    sweep = Sweep.find_by(id: tally.proof)
    looks = ProofLooks.new(fix).looks
    {
      "sweep_id" => tally.proof,
      "at" => (sweep&.finished_at || Time.now.utc).iso8601,
      "looked_at" => looks.size,
      "looks" => looks.first(ProofLooks::MOST).map(&:to_h)
    }
  end

  def work_out(fix)
    findings = fix.findings.standing.includes(link: :sightings).order(:id).limit(SAMPLE).to_a
    return if findings.empty?

    group = Orvant::Fix::Grouping.fix(fix.root, findings.map(&:entry))
    fix.assign_attributes(Fix.facts(group))
  end
end
