# frozen_string_literal: true

# Follows the links of a sweep that have no trail yet, and stores each with its findings. What only a browser
# can tell is left to the look phase.
class TrailPhase
  BATCH = 200
  # Progress is stored at least this often, in seconds.
  EVERY = 0.3
  # Memory is given back after so many links.
  TIDIED = 2_000
  # So many slow links are followed once more, and so many that met silence.
  MOST_SLOW = 200
  MOST_SILENT = 200

  # @param sweep [Sweep]
  def initialize(sweep)
    @sweep = sweep
    @follower = Orvant::Trail::Follower.new(NetworkPolicy.new(sweep.workspace).door)
    @convention = sweep.convention_version.convention
    @judge = LinkJudge.new(@convention, @follower.method(:follow))
    @store = TrailStore.new(sweep)
    # One connection serves all fibers of a thread: none may begin a statement while another waits for its
    # own.
    @database = Mutex.new
    @waiting = []
    @slow = []
    @silent = []
    @stored_at = now
    @untidied = 0
  end

  # Returns when every link has its trail, or the sweep is being stopped.
  def call
    feed = LinkFeed.new(@sweep)
    @follower.follow_all(
      -> { @database.synchronize { feed.next } unless @stopping },
      visitors: @sweep.visitors,
      enough: method(:stopping?)
    ) do |link, trails|
      if slow?(trails) then @slow << link
      elsif @silent.size < MOST_SILENT && trails.any?(&:silent?) then @silent << [link, trails]
      else
        take(link, trails)
      end
    end
    follow_alone
    follow_silent
    store
  end

  private

  def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)

  # Many links at once keep one another waiting, here and at the servers: what seems slow is followed alone
  # before it is called so.
  def slow?(trails) = @slow.size < MOST_SLOW && trails.any? { |trail| trail.slow?(@convention.slow_ms) }

  def follow_alone
    if @slow.any?
      @follower.follow_all(
        -> { @slow.shift unless @stopping },
        visitors: @sweep.visitors,
        at_once: 1,
        enough: method(:stopping?)
      ) do |link, trails|
        take(link, trails)
      end
    end
  end

  # A server may have been silent because many asked at once, or because this machine had no time for its
  # answers: one link of each such server is followed again, and its others where it answers now.
  def follow_silent
    hosts = @silent.group_by { |_, trails| silent_host(trails) }.values
    still = Set.new
    follow_again(hosts.map(&:first)) { |trails| still << silent_host(trails) if trails.any?(&:silent?) }
    rest = hosts.flat_map { |same| same.drop(1) }
    lost, again = rest.partition { |_, trails| still.include?(silent_host(trails)) }
    follow_again(again)
    lost.each { |link, trails| take(link, trails) } unless @stopping
  end

  def follow_again(silent)
    links = silent.map(&:first)
    return if links.empty?

    @follower.follow_all(
      -> { links.shift unless @stopping },
      visitors: @sweep.visitors,
      enough: method(:stopping?)
    ) do |link, trails|
      yield trails if block_given?
      take(link, trails)
    end
  end

  def silent_host(trails) = Orvant::Address.new(trails.find(&:silent?).final_address).host

  def take(link, trails)
    # Judging may follow a corrected address and so let other fibers run, one of which may store and change
    # what is waiting: the list is looked up only after it.
    result = @judge.call(link, trails)
    @waiting << result
    store if @waiting.size >= BATCH || now - @stored_at >= EVERY
  end

  # Whoever is told to stop stores first.
  def store
    batch = @waiting
    @waiting = []
    @stored_at = now
    Sync do |task|
      task.defer_stop { @database.synchronize { @store.call(batch) if batch.any? } }
    end
    tidy(batch.size)
  end

  # Links under way are left then: a silent server would keep whoever wants to stop waiting.
  def stopping? = @database.synchronize { @stopping = @sweep.stopping? }

  def tidy(links)
    @untidied += links
    return if @untidied < TIDIED

    @untidied = 0
    FreeMemory.give_back
  end
end
