# frozen_string_literal: true

# Follows in the browser the links whose page may move its visitors on by script.
class ScriptPhase
  # @param trail [Orvant::Trail] as far as it goes without a browser
  # @param convention [Orvant::Convention]
  # @return [Boolean] whether only a browser can tell where it ends; pages that are none of the advertiser's affair are left alone
  def self.for?(trail, convention)
    trail.moves_by_script && trail.hops.any? do |hop|
      host = Orvant::Address.new(hop.address).host
      convention.own_hosts.cover?(host) || convention.relay_hosts.cover?(host)
    end
  end

  # @param sweep [Sweep]
  def initialize(sweep)
    @sweep = sweep
    @convention = sweep.convention_version.convention
    @store = TrailStore.new(sweep)
  end

  # Returns when every link has its trail, or the sweep is being stopped.
  def call
    links = @sweep.chosen_links.where.not(id: @sweep.link_trails.select(:link_id)).includes(:sightings).to_a
    return if links.empty?

    @browser = @sweep.workspace.browser
    Tabs.new(@sweep).work(links.map { |link| -> { follow(link) } })
  ensure
    @browser&.quit
  end

  private

  # Corrected addresses are followed as a browser would, too.
  def follow(link)
    judge = LinkJudge.new(@convention, ->(text, visitor: Orvant::Net::Visitor::DESKTOP) { trail(text, visitor) })
    result = judge.call(link, @sweep.visitors.map { |visitor| trail(link.address, visitor) })
    -> { @store.call([result]) }
  end

  def trail(text, visitor) = Orvant::Browser::TrailVisit.follow(@browser, text, visitor: visitor)
end
