# frozen_string_literal: true

# Has a browser look, page by page, at what HTTP alone cannot tell: a few trails of each page stand for all
# that pass it, unless they go another way in the browser, and then each is followed there.
class LookPhase
  BATCH = 500
  # Of the tabs in which pages are watched.
  SHARE = 1.5
  # Seconds between two looks round for trails that have come while links are still followed, and in which
  # what was seen is stored.
  EVERY = 0.5

  # A trail that is to be looked at. id: of its link · address: of its link · could_run: what its pages could
  # have run · hosts: where its way begins, and where it lands.
  Wanted = Struct.new(:id, :visitor, :key, :carried, :address, :could_run, :acts, :hosts)

  # @param sweep [Sweep]
  def initialize(sweep)
    @sweep = sweep
    @convention = sweep.convention_version.convention
    @limits = sweep.workspace.limits
    @store = TrailStore.new(sweep)
    @looker = Looker.new(sweep.workspace, @convention.slow_ms)
    @judge = LinkJudge.new(@convention, @looker.method(:trail))
    @samples = {}
    @undecided = {}
    @otherwise = {}
    @acting = {}
    @seen = Concurrent::Map.new
    start_anew
  end

  # Returns when every trail has been looked at, or the sweep is being stopped.
  def call = ahead(Concurrent::Event.new.tap(&:set))

  # Looks at what has come so far, again and again, while links are still being followed. Hosts that want to
  # be asked slowly are left until all are.
  #
  # @param followed [Concurrent::Event] set once all links are followed
  def ahead(followed)
    until @sweep.stopping?
      @followed = followed.set?
      tasks = unseen.any? ? of_samples + of_each : []
      look(tasks)
      confirm_known
      return if @followed && tasks.empty?

      followed.wait(EVERY) if tasks.empty?
    end
  ensure
    @looker.close
  end

  private

  def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)

  def unseen = @sweep.link_trails.where(look: "nobody")

  def of_samples = samples.map { |key, some| task(some) { judge(key, some) } }

  # Link by link, as all visitors for whom it is to be told: of pages on which a browser goes another way, and
  # of those that are owed a look of their own.
  def of_each
    rest = wanted(unseen.where(look_key: @otherwise.keys).or(owed).limit(BATCH)).group_by(&:id)
    links = LinkEntries.provide(Link.where(id: rest.keys).to_a).index_by(&:id)
    rest.map do |id, ways|
      task(ways) { result(links.fetch(id), ways).then { |result| -> { replace(result) } } }
    end
  end

  # Where something was found on a way before and is not now, it takes a look at this very link to say that it
  # is mended; so does every link of a fix that is checked.
  def owed
    return unseen if @sweep.fix_id

    unseen.where(link_id: missed.select(:link_id))
  end

  def missed
    Finding.current.where(workspace_id: @sweep.workspace_id, over_all: false)
      .where("findings.code LIKE 'trail/%'").where.not(sweep_id: @sweep.id)
      .where(<<~SQL, @sweep.id)
        NOT EXISTS (SELECT 1 FROM findings again WHERE again.sweep_id = ? AND again.link_id = findings.link_id
                    AND again.code = findings.code AND again.root = findings.root)
      SQL
  end

  # @return [Hash{String => Array<Wanted>}] by key, those that are looked at
  def samples
    return {} if @sweep.fix_id

    ids = unseen.where.not(look_key: @otherwise.keys).where.not(id: owed.select(:id))
      .group(:look_key, :carried)
      .order(Arel.sql("MIN(link_id)"))
      .pluck(:look_key, :carried, Arel.sql("COUNT(*)"), Arel.sql("MIN(link_id)"))
      .group_by(&:first).to_h { |key, sets|
      [key, fresh(key, sets)]
    }
    some = wanted(unseen.where(look_key: ids.keys, link_id: ids.values.flatten))
    some.select { |one| ids[one.key].include?(one.id) }.group_by(&:key)
  end

  # @param sets [Array<Array(String, String, Integer, Integer)>] of one page, each with the id of a link
  # @return [Array<Integer>] ids of the links that stand for sets of which none has been looked at
  def fresh(key, sets)
    known = @samples.fetch(key, [])
    new = sets.reject { |_, carried, *| known.any? { |one| one.carried == carried } }
    # Where the first few move on, all are followed anyway.
    wanted = known.empty? ? Orvant::Trail::Looks::SAMPLES : most(key)
    Orvant::Trail::Looks.samples(new.map { |*, size, id| [size, id] }, most: wanted - known.size)
  end

  # Whether scripts act on values the text of the page tells, or the first look, which reads the others.
  def most(key)
    unless @acting.key?(key)
      @acting[key] =
        unseen.where(look_key: key).limit(1).pick(:looked).to_h["acts"] == true
    end
    Orvant::Trail::Looks.most(@acting[key])
  end

  def wanted(trails)
    rows = trails.joins(:link).order(:link_id)
      .pluck(:link_id, :visitor, :look_key, :carried, "links.address", :looked, :final_address)
    some = rows.map do |id, visitor, key, carried, address, looked, final|
      hosts = [address, final].map { |text| Orvant::Address.new(text).host }.uniq
      Wanted.new(id, visitor, key, carried, address, *looked.to_h.values_at("could_run", "acts"), hosts)
    end
    @followed ? some : some.reject { |one| one.hosts.any? { |host| slow?(host) } }
  end

  def slow?(host)
    own = @limits.of(host)
    own.pause.positive? || own.per_host < Orvant::Net::Limits.usual.per_host
  end

  # @yieldreturn [Proc] what keeps what was seen
  def task(some)
    look = -> { yield.then { |keep| -> { take(keep) } } }
    PacedTasks::Task.new(some.flat_map(&:hosts).uniq, some.size, look)
  end

  def look(tasks)
    return if tasks.empty?

    Sweep.where(id: @sweep.id).update_all(["total = total + ?", tasks.size])
    Tabs.new(@sweep, share: SHARE).work(tasks)
    store
  end

  # What comes in a short while is stored together: a statement costs more than what one look brings.
  def take(keep)
    keep.call
    @looks += 1
    store if now - @stored_at >= EVERY
  end

  def store
    @store.confirm(@confirmed) if @confirmed.any?
    @store.replace(@results) if @results.any?
    Sender.meet(@sweep.workspace, @held) if @held.any?
    if @looks.positive?
      Sweep.where(id: @sweep.id).update_all(["done = done + :now, looks = looks + :now", {now: @looks}])
    end
    start_anew
  end

  def start_anew
    @confirmed = []
    @results = []
    @held = []
    @looks = 0
    @stored_at = now
  end

  # @return [Proc] what keeps it
  def judge(key, some)
    read = some.to_h { |one| [one, read(one)] }
    glances = some.to_h { |one| [one, glance(one)] }
    return -> { confirm(key, glances) } if some.all? { |one| same?(read[one], glances[one]) }

    # What works once is not asked for once more.
    seen = some.to_h do |one|
      used = glances[one] && Orvant::Trail::Looks.again(read[one], glances[one])
      [one, used ? glances[one] : @judge.landed(@looker.follow(one.address, one.visitor))]
    end
    return -> { confirm(key, seen) } if some.all? { |one| same?(read[one], seen[one]) }

    trusted = some.all? { |one| same?(seen[one], glances[one]) }
    -> { follow_each(key, seen, trusted) }
  end

  # What a page shows is judged, too: a browser may see that what HTTP has read shows nothing, or something.
  def glance(wanted)
    @looker.glance(wanted.address, wanted.visitor)&.then { |trail| @judge.landed(trail) }
  end

  def same?(known, seen) = !seen.nil? && Orvant::Trail::Looks.as_read?(known, seen)

  # @param trusted [Boolean] whether glances saw just what visits of their own saw: then one is believed for
  #   the others of the page, too
  def follow_each(key, seen, trusted)
    @otherwise[key] = trusted
    seen.each { |one, trail| @seen[[one.id, one.visitor]] = trail }
    @store.doubt(key, seen.keys.first.could_run)
  end

  def seen_of(wanted)
    @seen.delete([wanted.id, wanted.visitor]) ||
      (glance(wanted) if @otherwise[wanted.key]) ||
      @looker.follow(wanted.address, wanted.visitor)
  end

  # The link is judged again by all its trails; corrected addresses are followed as a browser would, too.
  #
  # @param ways [Array<Wanted>] of one link
  def result(link, ways)
    seen = ways.to_h { |one| [one.visitor, counting(one, seen_of(one))] }
    visitors = @sweep.visitors.map(&:name)
    known = (visitors - seen.keys).any? ? trails_of(link) : {}
    @judge.call(link, known.merge(seen).values_at(*visitors))
  end

  # What was whole when HTTP asked first and is not when a browser asks again counts as it was first.
  def counting(wanted, seen)
    judged = @judge.landed(seen)
    return judged if Orvant::Trail::Looks.whole?(judged)

    first = read(wanted)
    again = Orvant::Trail::Looks.again(first, judged) or return judged

    first.look = Orvant::Trail::Look.new(by: "http", again: again)
    first
  end

  # @param seen [Hash{Wanted => Orvant::Trail}]
  def confirm(key, seen)
    tell_by_values(key) if !@acting[key] && seen.values.any?(&:acts)
    @samples[key] = @samples.fetch(key, []) + (@acting[key] ? seen.keys.map { |one| told(one) } : seen.keys)
    @undecided[key] = @undecided.fetch(key, []) | seen.values.flat_map { |trail| trail.seen.undecided.to_a }
    meet(seen.values)
    confirm_others(key)
  end

  # Files that the page loads act on values: from now on its trails are told apart by these.
  def tell_by_values(key)
    @acting[key] = true
    @samples[key] = @samples.fetch(key, []).map { |one| told(one) }
    seen = @samples.fetch(key, []).map(&:id)
    unseen.where(look_key: key).where.not(link_id: seen).pluck(:id, :looked).each_slice(BATCH) do |some|
      LinkTrail.transaction do
        some.each { |id, looked|
          LinkTrail.where(id: id).update_all(carried: by_values(looked.to_h["could_run"]))
        }
      end
    end
  end

  def told(wanted) = wanted.dup.tap { |one| one.carried = by_values(one.could_run) }

  def by_values(pages) = Orvant::Trail::Looks.carried(pages, acts: true)

  # Trails that have come since with what was looked at.
  def confirm_known
    keys = @samples.keys - @otherwise.keys
    unseen.where(look_key: keys).distinct.pluck(:look_key).each { |key| confirm_others(key) }
    store
  end

  def confirm_others(key)
    sample = @samples[key].first
    look = Orvant::Trail::Look.new(
      by: "page",
      on: Time.now.utc.iso8601,
      as: sample.address,
      could_run: sample.could_run,
      undecided: @undecided[key]
    )
    stood_for(key).pluck(:link_id).each_slice(BATCH) do |ids|
      @confirmed << TrailStore::Confirmed.new(ids, key, look)
    end
  end

  # What comes with other parameters is looked at too, until enough have been.
  def stood_for(key)
    known = @samples[key]
    trails = unseen.where(look_key: key).where.not(id: owed.select(:id))
    (known.size < most(key)) ? trails.where(carried: known.map(&:carried)) : trails
  end

  def replace(result)
    @results << result
    meet(result.trails)
  end

  # Whom a page asked in vain, a person may let it ask. Pages of one's own are watched besides, unless they
  # lead away.
  def meet(trails)
    held = trails.flat_map { |trail| trail.held.to_a }
    @held.concat(held.select { |one| one.document? || !own?(one.page) })
  end

  def own?(page) = @convention.own_hosts.cover?(Orvant::Address.new(page.to_s).host)

  def read(wanted)
    reading { @sweep.link_trails.find_by!(link_id: wanted.id, visitor: wanted.visitor).trail(wanted.address) }
  end

  # @return [Hash{String => Orvant::Trail}] by visitor
  def trails_of(link)
    reading do
      @sweep.link_trails.where(link_id: link.id).to_h { |row| [row.visitor, row.trail(link.address)] }
    end
  end

  # Tabs read beside the thread that stores.
  def reading(&) = ActiveRecord::Base.connection_pool.with_connection(&)
end
