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
      return !address.nil? || trails.first.answered? if code.start_with?("param/")

      arrived?
    end

    # @return [Boolean] whether a page was reached: what ends otherwise than before is not mended by that
    def arrived? = trails.first.landed?
  end
  # Checks of how a trail ends.
  ENDINGS = %w[trail/unreachable trail/loop trail/too-long trail/broken].freeze

  # @param convention [Orvant::Convention]
  # @param follow [#call, nil] address text, visitor: => Orvant::Trail; without it nothing is asked of
  #   anybody, and no corrected address is offered
  def initialize(convention, follow = nil)
    @convention = convention
    @follow = follow
    ours = Orvant::Hosts.new(convention.own_hosts.names + convention.relay_hosts.names)
    @nowhere = Orvant::Trail::Nowhere.new(ours, follow) if follow
  end

  # @param link [Link]
  # @param trails [Array<Orvant::Trail>] one for each visitor
  # @return [Result]
  def call(link, trails)
    trails = first_answers(trails.map { |trail| judge_landing(trail) })
    facts = LinkEntries.sightings(link)
    first, *others = trails.map { |trail| on_the_way(trail, facts) }
    address = Orvant::Trail::Arrival.of(trails.first, @convention)
    address &&= Orvant::Inventory::Samples.put_back(address, facts)
    found = first +
      others.each_with_index.flat_map { |seen, index| only_there(seen, first, trails[index + 1]) }
    found += Orvant::Checks::Param.judge(address, @convention, kind: link.kind, sightings: facts) if address
    found += personal(link, facts, found) if address
    write_back(found, link, address) if address
    withhold(found, link, trails.first, facts)
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

  # Where another visitor is refused what the first was given, and so is the first who asks again, the link
  # works once only, and the first answer counts for all.
  def first_answers(trails)
    first, *others = trails
    return trails if @follow.nil? || others.none? { |one| Orvant::Trail::Looks.again(first, one) }

    visitor = Orvant::Net::Visitor.of(first.visitor)
    second = judge_landing(@follow.call(first.address, visitor: visitor))
    again = Orvant::Trail::Looks.again(first, second) or return trails

    first.look = Orvant::Trail::Look.new(by: "http", again: again)
    trails.map { |one| first.dup.tap { |same| same.visitor = one.visitor } }
  end

  # What is personal on a link that leads over others is handed on to them, whether it arrives or not.
  def personal(link, facts, found)
    written = Orvant::Address.new(link.address)
    return [] if @convention.applies_to?(written, kind: link.kind)

    Orvant::Checks::Param.judge(written, @convention, kind: link.kind, sightings: facts).reject do |one|
      found.any? { |known| known.code == one.code && known.parameter == one.parameter }
    end
  end

  # What is wrong with a link that leads over others is mended on the link, where it stands there.
  def write_back(found, link, judged)
    found = found.select { |one| one.corrected_address && one.code.start_with?("param/") }
    return if found.empty?

    names = @convention.rules_for.names
    written, built = [Orvant::Address.new(link.address), judged].map do |one|
      Orvant::Checks::Param::Structure.new(one, names).address
    end
    found.each do |finding|
      corrected = Orvant::Address.new(finding.corrected_address)
      finding.corrected_address = Orvant::Trail::Arrival.write_back(written, built, corrected).raw
    end
  end

  # An address is offered where it passes every family: one that was mended on its way is judged as it is
  # written, and one that was mended as it is written is followed, where its way may matter.
  def withhold(found, link, trail, facts)
    alike = found.select(&:corrected_address).group_by { |one| [one.corrected_address, one.code[/\w+/]] }
    alike.each do |(address, _), same|
      next if passes?(same.first, Orvant::Address.new(address), link, trail, facts, found)

      same.each { |finding| finding.corrected_address = nil }
    end
  end

  def passes?(finding, offered, link, trail, facts, found)
    if finding.code.start_with?("trail/")
      return Orvant::Checks::Param.judge(offered, @convention, kind: link.kind, sightings: facts)
          .all? { |one| one.code == "param/lost" }
    end
    return false unless @convention.applies_to?(offered, kind: link.kind) || untold?(offered, link, facts)
    return true if @follow.nil? || (trail.hops.size < 2 && offered.page == Orvant::Address.new(link.address).page)

    arrives?(offered, link, facts, found, trail)
  end

  # Of a link that leads over others nobody's data may be handed on, whatever becomes of it there.
  def untold?(offered, link, facts)
    Orvant::Checks::Param.judge(offered, @convention, kind: link.kind, sightings: facts).empty?
  end

  # Nothing is found on its way that is not there already.
  def arrives?(offered, link, facts, found, trail)
    visitor = Orvant::Net::Visitor.of(trail.visitor)
    text = Orvant::Inventory::Samples.fill_in(offered, facts).raw
    followed = judge_landing(@follow.call(text, visitor: visitor))
    return !trail.landed? unless followed.landed?

    new = Orvant::Checks::Trail.judge(followed, @convention, sightings: facts).reject do |one|
      found.any? { |known| known.code == one.code && known.root == one.root }
    end
    new.empty? && sound?(followed, link, facts)
  end

  # As it arrives it is judged as it is written.
  def sound?(followed, link, facts)
    address = Orvant::Trail::Arrival.of(followed, @convention)
    return true unless address

    Orvant::Checks::Param.judge(
      Orvant::Inventory::Samples.put_back(address, facts),
      @convention,
      kind: link.kind,
      sightings: facts
    ).all? { |one| one.code == "param/lost" }
  end

  # What the first visitor does not meet. What only some visitors are sent to is offered to nobody.
  def only_there(found, first, trail)
    known = first.map { |finding| [finding.code, finding.root] }
    found.reject { |finding| known.include?([finding.code, finding.root]) }.each do |finding|
      finding.corrected_address = nil
      finding.message = "As the visitor “#{trail.visitor}”: #{finding.message}"
      finding.place = finding.place.merge("visitor" => trail.visitor)
    end
  end
end
