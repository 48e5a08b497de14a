# frozen_string_literal: true

# Follows the links of a sweep that have no trail yet, and stores each with its findings in one transaction.
class TrailPhase
  BATCH = 50
  # Progress is stored at least this often, in seconds.
  EVERY = 0.3

  # @param sweep [Sweep]
  # @param limits [Orvant::Net::Limits]
  def initialize(sweep, limits: Orvant::Net::Limits.usual)
    @sweep = sweep
    @convention = sweep.convention_version.convention
    @follower = Orvant::Trail::Follower.new(Orvant::Net::Door.new(guard: sweep.workspace.guard, limits: limits))
    @waiting = []
    @stored_at = now
  end

  # Returns when every link has its trail, or the sweep is being stopped.
  def call
    feed = LinkFeed.new(@sweep)
    @follower.follow_all(-> { feed.next unless @stopping }) do |link, trail|
      # Judging may follow a corrected address and so let other fibers run, one of which may store and change what is waiting:
      # the list is looked up only after it.
      result = [link, *judged(link, Orvant::Page::Landing.judge(trail))]
      @waiting << result
      store if @waiting.size >= BATCH || now - @stored_at >= EVERY
    end
    store
  end

  private

  def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)

  def judged(link, trail)
    address = Orvant::Trail::Arrival.of(trail, @convention)
    found = Orvant::Checks::Trail.judge(trail, @convention,
      follow: ->(text) { Orvant::Page::Landing.judge(@follower.follow(text)) })
    found += Orvant::Checks::Param.judge(address, @convention, kind: link.kind) if address
    [trail, address, found]
  end

  def store
    batch = @waiting
    @waiting = []
    @stored_at = now
    ActiveRecord::Base.transaction do
      batch.each { |link, trail, address, found| store_one(link, trail, address, found) }
      Sweep.where(id: @sweep.id).update_all(["done = done + ?, findings_count = findings_count + ?", batch.size,
        batch.sum { |one| one.last.size }])
    end
    @stopping = @sweep.stopping?
  end

  def store_one(link, trail, address, found)
    LinkTrail.create!(sweep: @sweep, link: link, outcome: trail.outcome, status: trail.status,
      final_address: trail.final_address, landing_page: Orvant::Address.new(trail.final_address).page,
      judged_address: address&.raw, reason: trail.reason, engine: trail.engine, hops: trail.hops.map(&:to_h))
    supersede(link)
    Finding.insert_all(found.map { |one| Finding.row(one, workspace_id: @sweep.workspace_id, sweep_id: @sweep.id, link_id: link.id) }) if found.any?
    link.update!(outcome: trail.outcome, swept_at: Time.now.utc)
    link.refresh_verdict
  end

  # What was found before on this link, or on one whose place it took, has been looked at again.
  def supersede(link)
    earlier = @sweep.workspace.links.where(replaced_by_id: link.id)
    Finding.current.where(link_id: [link.id, *earlier.ids]).update_all(current: false)
    earlier.each(&:refresh_verdict)
  end
end
