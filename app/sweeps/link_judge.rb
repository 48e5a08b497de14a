# frozen_string_literal: true

# Judges one link by its trails: as the first visitor in full, as each further one by what only happens to
# them.
class LinkJudge
  # What is known of a link after it was followed.
  Result = Struct.new(:link, :trails, :address, :findings, keyword_init: true) do
    # @param code [String] of a check
    # @return [Boolean] whether the check has looked: what no answer came from was not looked at, nor what
    #   only a browser can tell
    def looked?(code)
      return false unless trails.all? { |trail| trail.seen.done? }
      return !address.nil? || answered? if code.start_with?("param/")

      answered? || ENDINGS.include?(code)
    end

    private

    def answered? = trails.first.answered?
  end
  # Checks of how a trail ends, which have looked however it ended.
  ENDINGS = %w[trail/unreachable trail/loop trail/too-long trail/broken].freeze

  # @param convention [Orvant::Convention]
  # @param follow [#call, nil] address text, visitor: => Orvant::Trail; without it nothing is asked of
  #   anybody, and no corrected address is offered
  def initialize(convention, follow = nil)
    @convention = convention
    @follow = follow
    @nowhere = Orvant::Trail::Nowhere.new(convention.own_hosts, follow) if follow
  end

  # @param link [Link]
  # @param trails [Array<Orvant::Trail>] one for each visitor
  # @return [Result]
  def call(link, trails)
    trails = trails.map { |trail| judge_landing(trail) }
    facts = LinkEntries.sightings(link)
    first, *others = trails.map { |trail| on_the_way(trail, facts) }
    address = Orvant::Trail::Arrival.of(trails.first, @convention)
    address &&= Orvant::Inventory::Samples.put_back(address, facts)
    found = first +
      others.each_with_index.flat_map { |seen, index| only_there(seen, first, trails[index + 1]) }
    found += Orvant::Checks::Param.judge(address, @convention, kind: link.kind, sightings: facts) if address
    Result.new(link: link, trails: trails, address: address, findings: found)
  end

  # @param trail [Orvant::Trail]
  # @return [Orvant::Trail] with what is to be said of its page
  def landed(trail) = judge_landing(trail)

  private

  def judge_landing(trail) = Orvant::Trail::Landing.judge(trail, probe: @nowhere)

  def on_the_way(trail, facts)
    visitor = Orvant::Net::Visitor.of(trail.visitor)
    Orvant::Checks::Trail.judge(
      trail,
      @convention,
      sightings: facts,
      follow: @follow && ->(text) { judge_landing(@follow.call(text, visitor: visitor)) }
    )
  end

  # What the first visitor does not meet.
  def only_there(found, first, trail)
    known = first.map { |finding| [finding.code, finding.root] }
    found.reject { |finding| known.include?([finding.code, finding.root]) }.each do |finding|
      finding.message = "As the visitor “#{trail.visitor}”: #{finding.message}"
      finding.place = finding.place.merge("visitor" => trail.visitor)
    end
  end
end
