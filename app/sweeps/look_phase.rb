# frozen_string_literal: true

# Has a browser look, page by page, at what HTTP alone cannot tell: a few trails of each page stand for all
# that pass it, unless they go another way in the browser, and then each is followed there.
class LookPhase
  BATCH = 500
  # Of the tabs in which pages are watched.
  SHARE = 1.5
  # Seconds between two looks round for trails that have come while links are still followed.
  EVERY = 1

  # A trail that is to be looked at. id: of its link · hosts: where its way begins, and where it lands.
  Wanted = Struct.new(:id, :visitor, :key, :carried, :hosts, keyword_init: true)

  # @param sweep [Sweep]
  def initialize(sweep)
    @sweep = sweep
    @convention = sweep.convention_version.convention
    @limits = sweep.workspace.limits
    @store = TrailStore.new(sweep)
    @samples = {}
    @otherwise = {}
    @tried = Set.new
    @tabs = Concurrent::Map.new
    @judge = LinkJudge.new(
      @convention,
      ->(text, visitor: Orvant::Net::Visitor::DESKTOP) { trail(text, visitor) }
    )
  end

  # Returns when every trail has been looked at, or the sweep is being stopped.
  def call = ahead(-> { true })

  # Looks at what has come so far, again and again, while links are still being followed. Hosts that want to
  # be asked slowly are left until all are.
  #
  # @param followed [#call] whether all links are followed
  def ahead(followed)
    until @sweep.stopping?
      @followed = followed.call
      tasks = unseen.any? ? of_samples + of_the_others : []
      look(tasks)
      confirm_known
      return if @followed && tasks.empty?

      sleep EVERY if tasks.empty?
    end
  ensure
    @tabs.each_value(&:close)
    @browser&.quit
  end

  private

  def unseen = @sweep.link_trails.where(look: "nobody")

  def of_samples = samples.map { |key, some| task(some) { judge(key, some) } }

  # Of pages on which a browser goes another way.
  def of_the_others
    return [] if @otherwise.empty?

    rest = wanted(unseen.where(look_key: @otherwise.keys)).select { |one| @tried.add?([one.id, one.visitor]) }
    rest.map do |one|
      task([one]) { [result(one, seen_of(one))].then { |results| -> { @store.replace(results) } } }
    end
  end

  # @return [Hash{String => Array<Wanted>}] by key, those that are looked at
  def samples
    ids = unseen.where.not(look_key: @otherwise.keys).group(:look_key, :carried)
      .order(Arel.sql("MIN(link_id)"))
      .pluck(:look_key, :carried, Arel.sql("COUNT(*)"), Arel.sql("MIN(link_id)"))
      .group_by(&:first).to_h { |key, sets| [key, fresh(key, sets)] }
    some = wanted(unseen.where(look_key: ids.keys, link_id: ids.values.flatten))
    some.select { |one| ids[one.key].include?(one.id) }.group_by(&:key)
  end

  # @param sets [Array<Array(String, String, Integer, Integer)>] of one page, each with the id of a link
  # @return [Array<Integer>] ids of the links that stand for sets of which none has been looked at
  def fresh(key, sets)
    known = @samples.fetch(key, [])
    new = sets.reject { |_, carried, *| known.any? { |one| one.carried == carried } }
    Orvant::Trail::Looks.samples(new.map { |*, size, id| [size, id] }, known: known.size)
  end

  def wanted(trails)
    rows = trails.joins(:link).order(:link_id)
      .pluck(:link_id, :visitor, :look_key, :carried, "links.address", :final_address)
    some = rows.map do |id, visitor, key, carried, *ends|
      hosts = ends.map { |text| Orvant::Address.new(text).host }.uniq
      Wanted.new(id: id, visitor: visitor, key: key, carried: carried, hosts: hosts)
    end
    @followed ? some : some.reject { |one| one.hosts.any? { |host| slow?(host) } }
  end

  def slow?(host)
    own = @limits.of(host)
    own.pause.positive? || own.per_host < Orvant::Net::Limits.usual.per_host
  end

  def task(some, &work) = PacedTasks::Task.new(some.flat_map(&:hosts).uniq, some.size, work)

  def look(tasks)
    return if tasks.empty?

    @browser ||= @sweep.workspace.browser
    Sweep.where(id: @sweep.id).update_all(["total = total + ?", tasks.size])
    Tabs.new(@sweep, share: SHARE).work(tasks)
  end

  # @return [Proc] what stores it
  def judge(key, some)
    glances = some.to_h { |one| [one, glance(one)] }
    return -> { confirm(key, some) } if glances.all? { |one, trail| same?(read(one), trail) }

    seen = some.to_h { |one| [one, follow(one)] }
    return -> { confirm(key, some) } if seen.all? { |one, trail| same?(read(one), trail) }

    results = seen.map { |one, trail| result(one, trail) }
    trusted = seen.all? { |one, trail| same?(trail, glances[one]) }
    could_run = read(some.first).seen.could_run
    lambda do
      @otherwise[key] = trusted
      @store.doubt(key, could_run)
      @store.replace(results)
    end
  end

  def same?(known, seen) = !seen.nil? && Orvant::Trail::Looks.as_read?(known, seen)

  # In a tab that is used again.
  def glance(wanted)
    tab = @tabs.compute_if_absent([Tabs.number, wanted.visitor]) do
      Orvant::Browser::UsedTab.new(@browser, Orvant::Net::Visitor.of(wanted.visitor))
    end
    tab.follow(address(wanted.id))
  end

  # Where a glance saw just what visits of their own saw, it is believed for the others of the page.
  def seen_of(wanted) = (glance(wanted) if @otherwise[wanted.key]) || follow(wanted)

  def confirm(key, some)
    @samples[key] = @samples.fetch(key, []) + some
    confirm_others(key)
    Sweep.where(id: @sweep.id).update_all("done = done + 1, looks = looks + 1")
  end

  # Trails that have come since with what was looked at.
  def confirm_known
    keys = @samples.keys - @otherwise.keys
    unseen.where(look_key: keys).distinct.pluck(:look_key).each { |key| confirm_others(key) }
  end

  def confirm_others(key)
    ids = stood_for(key).pluck(:link_id)
    return if ids.empty?

    sample = @samples[key].first
    look = Orvant::Trail::Look.new(
      by: "page",
      on: Time.now.utc.iso8601,
      as: address(sample.id),
      could_run: read(sample).seen.could_run
    )
    ids.each_slice(BATCH) { |some| @store.confirm(some, key, look) }
  end

  # What comes with other parameters is looked at too, until enough have been.
  def stood_for(key)
    known = @samples[key]
    trails = unseen.where(look_key: key)
    (known.size < Orvant::Trail::Looks::SAMPLES) ? trails.where(carried: known.map(&:carried)) : trails
  end

  def address(id) = reading { Link.where(id: id).pick(:address) }

  # What seems slow beside other tabs is followed once more.
  def follow(wanted)
    text, visitor = address(wanted.id), Orvant::Net::Visitor.of(wanted.visitor)
    trail = trail(text, visitor)
    return trail unless trail.slow?(@convention.slow_ms)

    again = trail(text, visitor)
    (again.outcome == trail.outcome && again.ms < trail.ms) ? again : trail
  end

  def read(wanted) = reading { row(wanted).trail }

  def row(wanted) = @sweep.link_trails.find_by!(link_id: wanted.id, visitor: wanted.visitor)

  # The link is judged again by all its trails; corrected addresses are followed as a browser would, too.
  def result(wanted, seen)
    link, trails = reading {
      [
        Link.includes(:sightings).find(wanted.id),
        @sweep.link_trails.where(link_id: wanted.id).order(:id).map(&:trail)
      ]
    }
    trails = trails.map { |one| (one.visitor == wanted.visitor) ? seen : one }
    @judge.call(link, trails)
  end

  def trail(text, visitor) = Orvant::Browser::TrailVisit.follow(@browser, text, visitor: visitor)

  # Tabs read beside the thread that stores.
  def reading(&) = ActiveRecord::Base.connection_pool.with_connection(&)
end
