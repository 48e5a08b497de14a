# frozen_string_literal: true

# Stores what was found on many links at once, in one transaction and few statements.
class TrailStore
  # @param sweep [Sweep]
  def initialize(sweep)
    @sweep = sweep
    @convention = sweep.convention_version.convention
  end

  # @param results [Array<LinkJudge::Result>]
  def call(results)
    additions = additions(results)
    ActiveRecord::Base.transaction { store(results, additions, done: results.size) }
  end

  # Puts trails in the place of those that HTTP has read.
  #
  # @param results [Array<LinkJudge::Result>]
  def replace(results)
    results = results.uniq { |result| result.link.id }
    ids = results.map { |result| result.link.id }
    additions = additions(results)
    ActiveRecord::Base.transaction do
      @sweep.link_trails.where(link_id: ids).delete_all
      removed = @sweep.findings.where(link_id: ids, over_all: false).delete_all
      Sweep.where(id: @sweep.id).update_all(["findings_count = findings_count - ?, looks = looks + 1", removed])
      store(results, additions, done: 1)
    end
  end

  # Says of trails that a browser saw what HTTP has read, so that their findings hold.
  #
  # @param ids [Array<Integer>] of links
  # @param key [String] by which they share the look
  # @param look [Orvant::Trail::Look]
  def confirm(ids, key, look)
    ActiveRecord::Base.transaction do
      Database.among(@sweep.link_trails, ids, :link_id).where(look_key: key)
        .update_all(look: look.by, looked: look.to_h)
      confirmed = confirmed(ids)
      supersede(confirmed)
      repeat_on_links(confirmed)
    end
  end

  # Takes back that others have been seen to stand for trails: each is looked at by itself.
  #
  # @param key [String] by which they share a look
  # @param could_run [Array, nil] what their pages could have run
  def doubt(key, could_run)
    unseen = Orvant::Trail::Look.new(by: "nobody", could_run: could_run)
    @sweep.link_trails.where(look_key: key, look: "page").update_all(look: unseen.by, looked: unseen.to_h)
  end

  private

  # What another process has stored meanwhile stays.
  #
  # @return [Array(Insertion, Insertion)] of trails and of findings
  def additions(results)
    [
      Insertion.new(LinkTrail, trail_rows(results), known_by: %i[sweep_id link_id visitor]),
      Insertion.new(Finding, finding_rows(results))
    ]
  end

  def store(results, (trails, findings), done:)
    trails.call
    supersede(results)
    findings.call
    repeat_on_links(results)
    Sweep.where(id: @sweep.id)
      .update_all(["done = done + ?, findings_count = findings_count + ?", done, findings.count])
  end

  # What is stored, as far as it tells whether checks have looked: without the way, of which there is much.
  def confirmed(ids)
    rows = Database.among(@sweep.link_trails, ids, :link_id).order(:id)
      .select(:id, :link_id, :outcome, :look, :judged_address).group_by(&:link_id)
    Database.among(Link, rows.keys).select(:id).map do |link|
      same = rows.fetch(link.id)
      LinkJudge::Result.new(
        link: link,
        trails: same.map(&:ending),
        address: same.first.judged_address,
        findings: []
      )
    end
  end

  def trail_rows(results)
    results.flat_map do |result|
      more = {sweep_id: @sweep.id, link_id: result.link.id, judged_address: result.address&.raw}
      result.trails.map { |trail| LinkTrail.row(trail, @convention, **more) }
    end
  end

  def finding_rows(results)
    results.flat_map do |result|
      more = {workspace_id: @sweep.workspace_id, sweep_id: @sweep.id, link_id: result.link.id}
      result.findings.map { |one| Finding.row(one, **more) }
    end
  end

  # What was found before on these links, or on those whose place they took, has been looked at again, as far
  # as its checks have looked.
  def supersede(results)
    by_id = results.to_h { |result| [result.link.id, result] }
    # Within its workspace SQLite would look through all of them.
    earlier = Database.among(Link, by_id.keys, :replaced_by_id).to_a
    earlier.each { |link| by_id[link.id] = by_id[link.replaced_by_id] }
    gone = Database.among(Finding.current, by_id.keys, :link_id).where.not(sweep_id: @sweep.id)
      .pluck(:id, :link_id, :code)
      .select { |_, link, code| by_id[link].looked?(code) }
    Database.among(Finding, gone.map(&:first)).update_all(current: false, absent_in_id: @sweep.id)
    earlier.each(&:refresh_verdict)
  end

  def repeat_on_links(results)
    standing = Database.among(Finding.standing, results.map { |result| result.link.id }, :link_id)
      .pluck(:link_id, :weight).group_by(&:first)
    rows = results.map do |result|
      [
        result.link.id,
        result.trails.first.outcome,
        result.trails.first.seen.by,
        *verdict(standing.fetch(result.link.id, []))
      ]
    end
    values = rows.map { |row| Link.sanitize_sql(["(?, ?, ?, ?, ?)", *row]) }.join(", ")
    Link.connection.execute(Link.sanitize_sql([
      "WITH seen(id, outcome, look, weight, findings) AS (VALUES #{values}) UPDATE links SET outcome = seen.outcome, look = seen.look, weight = seen.weight, findings_count = seen.findings, swept_at = ? FROM seen WHERE links.id = seen.id",
      Time.now.utc.to_fs(:db)
    ]))
  end

  # @return [Array(Integer, Integer)] the heaviest weight, and how many findings there are
  def verdict(found) = [found.map { |_, weight| Link::WEIGHTS.fetch(weight) }.max || 0, found.size]
end
