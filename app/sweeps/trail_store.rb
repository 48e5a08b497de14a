# frozen_string_literal: true

# Stores what was found on many links at once, in one transaction and few statements.
class TrailStore
  # Trails of which a browser saw what HTTP has read. ids: of their links · key: by which they share the look
  # · look: Orvant::Trail::Look
  Confirmed = Struct.new(:ids, :key, :look)
  # So many of them are stored at once.
  TOGETHER = 10

  # @param sweep [Sweep]
  def initialize(sweep)
    @sweep = sweep
    @convention = sweep.convention_version.convention
    @again = LookedAgain.new(sweep)
    @judges = {}
  end

  # @param results [Array<LinkJudge::Result>]
  def call(results)
    additions = additions(results)
    ActiveRecord::Base.transaction do
      store(results, additions)
      count(done: results.size, findings: additions.last.count)
    end
  end

  # Puts trails in the place of those that HTTP has read.
  #
  # @param results [Array<LinkJudge::Result>]
  def replace(results)
    ids = results.map { |result| result.link.id }
    additions = additions(results)
    ActiveRecord::Base.transaction do
      @sweep.link_trails.where(link_id: ids).delete_all
      removed = @sweep.findings.where(link_id: ids, over_all: false).delete_all
      store(results, additions)
      count(findings: additions.last.count - removed)
    end
  end

  # Says of trails that a browser saw what HTTP has read, so that their findings hold.
  #
  # @param confirmed [Array<Confirmed>]
  def confirm(confirmed)
    confirmed.each_slice(TOGETHER) do |some|
      ActiveRecord::Base.transaction do
        some.each { |one| say_seen(one) }
        results = confirmed_links(some.flat_map(&:ids).uniq)
        supersede(results)
        repeat_on_links(results)
      end
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

  def store(results, (trails, findings))
    trails.call
    supersede(results)
    findings.call
    repeat_on_links(results)
  end

  def count(findings:, done: 0)
    Sweep.where(id: @sweep.id)
      .update_all(["done = done + ?, findings_count = findings_count + ?", done, findings])
  end

  def say_seen(confirmed)
    Database.among(@sweep.link_trails, confirmed.ids, :link_id).where(look_key: confirmed.key)
      .update_all(look: confirmed.look.by, looked: confirmed.look.to_h)
  end

  # What is stored, as far as it tells whether checks have looked: without the way, of which there is much.
  def confirmed_links(ids)
    rows = Database.among(@sweep.link_trails, ids, :link_id).order(:id)
      .select(:id, :link_id, :outcome, :look, :judged_address).group_by(&:link_id)
    Database.among(Link, rows.keys).map do |link|
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
    now = Time.now.utc
    results.flat_map do |result|
      more = {sweep_id: @sweep.id, link_id: result.link.id, judged_address: result.address&.raw}
      result.trails.map { |trail| LinkTrail.row(trail, @convention, created_at: now, **more) }
    end
  end

  def finding_rows(results)
    now = Time.now.utc
    results.flat_map do |result|
      more = {workspace_id: @sweep.workspace_id, sweep_id: @sweep.id, link_id: result.link.id}
      result.findings.map { |one| Finding.row(one, created_at: now, **more) }
    end
  end

  # What was found before on these links, or on those whose place they took, has been looked at again, as far
  # as its checks have looked.
  def supersede(results)
    by_id = results.to_h { |result| [result.link.id, result] }
    # Within its workspace SQLite would look through all of them.
    earlier = Database.among(Link, by_id.keys, :replaced_by_id).to_a
    earlier.each { |link| by_id[link.id] = by_id[link.replaced_by_id] }
    found = Database.among(Finding.last_word(@sweep), by_id.keys, :link_id).where(over_all: false)
      .where.not(sweep_id: @sweep.id).select { |one| visited?(one) }
    return earlier.each(&:refresh_verdict) if found.empty?

    now = marks(by_id.values)
    looked, others = found.partition { |one| by_id[one.link_id].looked?(one.code) || again?(one, now, by_id) }
    settle(looked, by_id, now)
    replace_endings(others, by_id, now)
    earlier.each(&:refresh_verdict)
  end

  def again?(finding, now, by_id)
    now.fetch(by_id[finding.link_id].link.id).include?([finding.code, finding.root, finding.parameter])
  end

  # A way that ends badly in another way than before is another finding: nothing is proven of the first.
  def replace_endings(findings, by_id, now)
    ended = findings.select do |one|
      LinkJudge::ENDINGS.include?(one.code) && one.unsettled?(@sweep) &&
        now.fetch(by_id[one.link_id].link.id).any? { |code, _| LinkJudge::ENDINGS.include?(code) }
    end
    @again.supersede(ended)
  end

  def settle(candidates, by_id, now)
    candidates.group_by { |one| by_id[one.link_id] }.each do |result, same|
      @again.settle(same, now.fetch(result.link.id, [])) do |version, _|
        judge = @judges[version.id] ||= LinkJudge.new(version.convention)
        judge.call(result.link, ways(result)).findings
      end
    end
  end

  # @return [Hash{Integer => Array}] by link, code, root and parameter of what is found on it in this sweep
  def marks(results)
    stored = Database.among(@sweep.findings, results.map { |one| one.link.id }, :link_id)
      .pluck(:link_id, :code, :root, :parameter)
      .group_by(&:first).transform_values { |same| same.map { |_, *mark| mark } }
    results.to_h do |one|
      found = one.findings.map { |finding| [finding.code, finding.root, finding.parameter] }
      [one.link.id, found | stored.fetch(one.link.id, [])]
    end
  end

  # Of what is stored already only the ending was read.
  def ways(result)
    return result.trails if result.trails.all?(&:hops)

    @sweep.link_trails.where(link_id: result.link.id).order(:id).map(&:trail)
  end

  # Whether the sweep has followed the link as the visitor who met the finding.
  def visited?(finding)
    met = finding.place.to_h["visitor"] || first_visitor(finding.sweep_id)
    @sweep.visitors.map(&:name).include?(met)
  end

  def first_visitor(sweep_id)
    (@first_visitors ||= {})[sweep_id] ||= Sweep.find(sweep_id).visitors.first.name
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
