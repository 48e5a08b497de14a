# frozen_string_literal: true

# Stores what was found on many links at once, in one transaction and few statements.
class TrailStore
  # @param sweep [Sweep]
  def initialize(sweep)
    @sweep = sweep
  end

  # @param results [Array<LinkJudge::Result>]
  def call(results)
    ActiveRecord::Base.transaction do
      LinkTrail.insert_all(results.flat_map { |result| trail_rows(result) })
      supersede(results.map { |result| result.link.id })
      findings = results.flat_map { |result| finding_rows(result) }
      Finding.insert_all(findings) if findings.any?
      repeat_on_links(results)
      Sweep.where(id: @sweep.id).update_all(["done = done + ?, findings_count = findings_count + ?", results.size, findings.size])
    end
  end

  private

  def trail_rows(result)
    result.trails.map { |trail| LinkTrail.row(trail, sweep_id: @sweep.id, link_id: result.link.id, judged_address: result.address&.raw) }
  end

  def finding_rows(result)
    result.findings.map { |one| Finding.row(one, workspace_id: @sweep.workspace_id, sweep_id: @sweep.id, link_id: result.link.id) }
  end

  # What was found before on these links, or on those whose place they took, has been looked at again.
  def supersede(ids)
    earlier = @sweep.workspace.links.where(replaced_by_id: ids).to_a
    Finding.current.where(link_id: ids + earlier.map(&:id)).update_all(current: false)
    earlier.each(&:refresh_verdict)
  end

  def repeat_on_links(results)
    rows = results.map { |result| [result.link.id, result.trails.first.outcome, result.findings.map { |one| Link::WEIGHTS.fetch(one.weight) }.max || 0, result.findings.size] }
    values = rows.map { |row| Link.sanitize_sql(["(?, ?, ?, ?)", *row]) }.join(", ")
    Link.connection.execute(Link.sanitize_sql(["WITH seen(id, outcome, weight, findings) AS (VALUES #{values}) UPDATE links SET outcome = seen.outcome, weight = seen.weight, findings_count = seen.findings, swept_at = ? FROM seen WHERE links.id = seen.id", Time.now.utc.to_fs(:db)]))
  end
end
