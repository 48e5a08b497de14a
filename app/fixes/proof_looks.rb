# frozen_string_literal: true

# What a proof looked at: each link, page and rehearsal of a fix, when, what was seen there, and by which
# checks.
class ProofLooks
  # So many stand with a proof; how many there were is told besides.
  MOST = 200

  # One look. subject: an address, a page or the name of a rehearsal · at: ISO 8601 · seen: in words · codes:
  # of the checks that looked.
  Look = Struct.new(:subject, :at, :seen, :codes, keyword_init: true) do
    # @return [Hash{String => Object}]
    def to_h = super.transform_keys(&:to_s)
  end

  # @param fix [Fix]
  def initialize(fix)
    @fix = fix
  end

  # @return [Array<Look>]
  def looks
    absent = @fix.findings.where.not(absent_in_id: nil).where(unasked: nil).includes(:link).to_a
    absent.group_by { |one| [one.link_id, one.page, one.rehearsal] }.values.map do |same|
      last = same.max_by(&:absent_in_id)
      look(last, same.map(&:code).uniq.sort)
    end
  end

  private

  def look(finding, codes)
    return of_link(finding, codes) if finding.link
    return of_page(finding, codes) if finding.page
    return of_rehearsal(finding, codes) if finding.rehearsal

    of_sweep("all links", finding, "all of them judged together", codes)
  end

  # Where a corrected link took the place of one, that one was followed.
  def of_link(finding, codes)
    link = finding.link.replaced_by || finding.link
    trail = link.link_trails.where(sweep_id: finding.absent_in_id).order(:id).first
    return of_sweep(link.address, finding, "judged as it is written", codes) unless trail

    Look.new(subject: link.address, at: trail.created_at.iso8601, seen: seen_of(trail), codes: codes)
  end

  def seen_of(trail)
    hops = Orvant::Words.counted(trail.hops.size, "hop")
    "#{trail.outcome.tr("_", " ")} at #{trail.final_address} after #{hops}#{", in the browser" if trail.look == "browser"}"
  end

  def of_page(finding, codes)
    visit = PageVisit.where(sweep_id: finding.absent_in_id, page: finding.page).order(:id).last
    return of_sweep(finding.page, finding, "opened", codes) unless visit

    signals = Orvant::Words.counted(visit.visit["signals"].to_a.size, "signal")
    Look.new(
      subject: visit.visit["final_address"],
      at: visit.created_at.iso8601,
      seen: "opened, #{signals} heard",
      codes: codes
    )
  end

  def of_rehearsal(finding, codes)
    script = @fix.workspace.rehearsal_scripts.find_by(name: finding.rehearsal)
    run = script && RehearsalRun.where(sweep_id: finding.absent_in_id, rehearsal_script_id: script.id).last
    steps = run ? Orvant::Words.counted(run.run["steps"].to_a.size, "step") : "its steps"
    of_sweep(finding.rehearsal, finding, "played, #{steps} done", codes)
  end

  def of_sweep(subject, finding, seen, codes)
    sweep = finding.absent_in
    at = (sweep&.finished_at || sweep&.created_at || Time.now.utc).iso8601
    Look.new(subject: subject, at: at, seen: seen, codes: codes)
  end
end
