# frozen_string_literal: true

# Compares a sweep with the one before it: trails and findings that are new, gone or changed.
class SweepDifference
  MOST = 2_000

  # @param sweep [Sweep]
  # @param earlier [Sweep, nil] the last finished one over all links before it, unless named
  def initialize(sweep, earlier = nil)
    @sweep = sweep
    @earlier = earlier || sweep.workspace.sweeps.finished_whole.where("id < ?", sweep.id).order(:id).last
  end

  # @return [Hash{String => Object}] counts, and the first of each
  def document
    unless @earlier
      return {"sweep_id" => @sweep.id, "earlier_id" => nil, "trails" => [], "findings" => [], "counts" => {}}
    end

    trails = changed_trails
    findings = changed_findings
    {"sweep_id" => @sweep.id,
     "earlier_id" => @earlier.id,
     "earlier_at" => @earlier.finished_at&.iso8601,
     "at" => @sweep.finished_at&.iso8601,
     "counts" => {"trails" => tally(trails), "findings" => tally(findings)},
     "trails" => trails.first(MOST),
     "findings" => findings.first(MOST)}
  end

  private

  def tally(changes)
    {"new" => 0, "gone" => 0, "changed" => 0}.merge(changes.map { |change| change["what"] }.tally)
  end

  def changed_trails
    now, before = [@sweep, @earlier].map { |sweep| trails(sweep) }
    links = Link.where(id: now.keys | before.keys).pluck(:id, :address).to_h
    (now.keys | before.keys).sort.filter_map do |id|
      what = what(before[id]&.first, now[id]&.first) or next
      {
        "what" => what,
        "link_id" => id,
        "address" => links[id],
        "before" => before[id]&.drop(1)&.join(" "),
        "after" => now[id]&.drop(1)&.join(" ")
      }
    end
  end

  def trails(sweep)
    sweep.link_trails.where(visitor: sweep.visitors.first.name)
      .pluck(:link_id, :shape, :outcome, :status, :final_address)
      .to_h { |id, *rest| [id, rest] }
  end

  def what(before, after)
    return if before == after
    return "new" unless before

    after ? "changed" : "gone"
  end

  def changed_findings
    now, before = [@sweep, @earlier].map do |sweep|
      sweep.findings.includes(:link).order(:id).group_by { |finding| subject(finding) }
    end
    (now.keys | before.keys).flat_map do |key|
      pairs(before.fetch(key, []), now.fetch(key, [])).map { |old, new| changed(old, new) }
    end
  end

  # One subject may have several findings of a kind: those that say the same are the same, the others are
  # paired as they come.
  def pairs(before, now)
    same = before.map(&:message) & now.map(&:message)
    old, new = [before, now].map { |findings| findings.reject { |finding| same.include?(finding.message) } }
    Array.new([old.size, new.size].max) { |index| [old[index], new[index]] }
  end

  def changed(old, new)
    finding = new || old
    {"what" => what(old&.message, new&.message),
     "code" => finding.code,
     "weight" => finding.weight,
     "link_id" => finding.link_id,
     "subject" => finding.link&.address || finding.page || finding.rehearsal || finding.subject,
     "message" => finding.message,
     "before" => old&.message}
  end

  def subject(finding)
    [
      finding.code,
      finding.link_id,
      finding.page,
      finding.rehearsal,
      finding.parameter,
      finding.place["visitor"]
    ]
  end
end
