# frozen_string_literal: true

# Has a browser look, page by page, at what HTTP alone cannot tell: a few trails of each page stand for all
# that pass it, unless they go another way in the browser, and then each is followed there.
class LookPhase
  BATCH = 500

  # A trail that is to be looked at. id: of its link.
  Wanted = Struct.new(:id, :visitor, :key, keyword_init: true)

  # @param sweep [Sweep]
  def initialize(sweep)
    @sweep = sweep
    @convention = sweep.convention_version.convention
    @store = TrailStore.new(sweep)
    @otherwise = {}
    @tabs = Concurrent::Map.new
    @judge = LinkJudge.new(
      @convention,
      ->(text, visitor: Orvant::Net::Visitor::DESKTOP) { trail(text, visitor) }
    )
  end

  # Returns when every trail has been looked at, or the sweep is being stopped.
  def call
    return if unseen.none?

    @browser = @sweep.workspace.browser
    look(samples.map { |key, some| -> { judge(key, some) } })
    look(each_of_the_others) unless @sweep.stopping?
  ensure
    @tabs.each_value(&:close)
    @browser&.quit
  end

  private

  def unseen = @sweep.link_trails.where(look: "nobody")

  # @return [Hash{String => Array<Wanted>}] by key, those that are looked at
  def samples
    sets = unseen.group(:look_key, :visitor, :carried)
      .order(Arel.sql("MIN(link_id)"))
      .pluck(:look_key, :visitor, Arel.sql("COUNT(*)"), Arel.sql("MIN(link_id)"))
    sets.group_by(&:first).transform_values do |same|
      Orvant::Trail::Looks.samples(same.map { |key, visitor, size, id|
        [size, Wanted.new(id: id, visitor: visitor, key: key)]
      })
    end
  end

  def look(tasks)
    Sweep.where(id: @sweep.id).update_all(["looks = looks + ?, total = total + ?", tasks.size, tasks.size])
    Tabs.new(@sweep).work(tasks)
  end

  # @return [Proc] what stores it
  def judge(key, some)
    glances = some.to_h { |one| [one, glance(one)] }
    return -> { confirm(key, some.first) } if glances.all? { |one, trail| same?(read(one), trail) }

    seen = some.to_h { |one| [one, follow(one)] }
    return -> { confirm(key, some.first) } if seen.all? { |one, trail| same?(read(one), trail) }

    results = seen.map { |one, trail| result(one, trail) }
    trusted = seen.all? { |one, trail| same?(trail, glances[one]) }
    lambda do
      @otherwise[key] = trusted
      @store.replace(results)
    end
  end

  def same?(known, seen) = !seen.nil? && Orvant::Trail::Looks.as_read?(known, seen)

  # In a tab of this thread that is used again.
  def glance(wanted)
    tab = @tabs.compute_if_absent([Thread.current, wanted.visitor]) do
      Orvant::Browser::UsedTab.new(@browser, Orvant::Net::Visitor.of(wanted.visitor))
    end
    tab.follow(address(wanted.id))
  end

  def each_of_the_others
    return [] if @otherwise.empty?

    unseen.where(look_key: @otherwise.keys).pluck(:link_id, :visitor, :look_key).map do |id, visitor, key|
      wanted = Wanted.new(id: id, visitor: visitor, key: key)
      -> { [result(wanted, of_the_others(wanted))].then { |results| -> { @store.replace(results) } } }
    end
  end

  # Where a glance saw just what visits of their own saw, it is believed for the others of the page.
  def of_the_others(wanted) = (glance(wanted) if @otherwise[wanted.key]) || follow(wanted)

  def confirm(key, sample)
    look = Orvant::Trail::Look.new(
      by: "page",
      on: Time.now.utc.iso8601,
      as: address(sample.id),
      could_run: read(sample).seen.could_run
    )
    unseen.where(look_key: key).pluck(:link_id).each_slice(BATCH) { |ids| @store.confirm(ids, key, look) }
    Sweep.where(id: @sweep.id).update_all("done = done + 1")
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
