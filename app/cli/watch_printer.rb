# frozen_string_literal: true

require "fileutils"
require "json"
require "orvant"

# Opens pages and plays rehearsals for the command line, in a sealed browser of its own, and says what their
# tags did.
class WatchPrinter
  PLAIN = File.expand_path("../workspaces/plain_convention.json", __dir__)
  HEAVY = %w[breaks skews].freeze

  # @return [Boolean] whether nothing breaks or skews
  attr_reader :sound
  alias_method :sound?, :sound

  # @param map [Orvant::Net::HostMap]
  # @param signatures [Array<Orvant::Signal::Signature>]
  # @param settings [Hash] docs/schemas/watching.schema.json
  # @param har [String, nil] a folder for a recording of each page and run
  # @param deliver [Boolean] whether signals are sent to the settings' collection points
  def initialize(map, signatures, settings, har: nil, deliver: false)
    Orvant.loader.eager_load
    @guard = Orvant::Net::Guard.new(host_map: map)
    @signatures = signatures
    @watching = Orvant::Watching.read(settings)
    @own = settings.fetch("own_hosts", [])
    @har = har
    @collecting = Orvant::Hosts.new(deliver ? @watching.collection_points : [])
    @sound = true
  end

  # @param addresses [Array<String>]
  # @yieldparam document [Hash] of each page, and at the end of what shows over all of them
  def tags(addresses)
    visits = with_browser(hosts(addresses)) do |browser|
      look = Orvant::Looking.new(browser, convention(hosts(addresses)), @signatures, @watching)
      addresses.map do |address|
        visit, found = look.call(Orvant::Address.parse(address).raw)
        keep(visit.har, "page-#{visit.page}")
        yield page_document(visit, told(found))
        visit
      end
    end
    over_all(visits) { |document| yield document }
  end

  # @param recordings [Array<Orvant::Recording>]
  # @yieldparam document [Hash] of each page that they hold, and of what shows over all of them
  def recorded(recordings)
    visits = recordings.flat_map { |one| one.visits(@signatures) }
    rules = convention(hosts(visits.map(&:final_address)))
    own = rules.own_hosts
    visits.select! { |visit| own.cover?(Orvant::Address.new(visit.final_address).host) }
    look = Orvant::Looking.new(nil, rules, @signatures, @watching)
    visits.each { |visit| yield page_document(visit, told(look.judged(visit))) }
    over_all(visits) { |document| yield document }
  end

  # @param rehearsals [Array<Orvant::Rehearsal>]
  # @yieldparam document [Hash] of each run
  def rehearse(rehearsals)
    opened = rehearsals.flat_map { |one| one.steps.select { |step| step.does == "open" }.map(&:target) }
    with_browser(hosts(opened)) do |browser|
      look = Orvant::Looking.new(browser, convention(hosts(opened)), @signatures, @watching)
      rehearsals.each do |rehearsal|
        run = Orvant::Rehearsal::Runner.new(
          browser,
          convention(hosts(opened)),
          signatures: @signatures,
          watching: @watching
        ).play(rehearsal)
        keep(run.har, "run-#{run.rehearsal}")
        yield({
          "rehearsal" => run.rehearsal,
          "steps" => run.steps,
          "signals" => run.signals.map(&:to_h),
          "score" => run.score.to_h,
          "trouble" => run.trouble,
          "findings" => told(look.judged_run(run))
        })
      end
    end
  end

  # @param document [Hash] as yielded
  # @return [Array<String>] lines for people
  def self.lines(document)
    title = document["page"] || document["rehearsal"] || "Over all pages"
    signals = document["signals"].to_a.map do |signal|
      "  #{"step #{signal["step"]}  " if signal["step"] && document["rehearsal"]}#{signal["tag"]}  #{signal["event"]}  #{signal["account"]}"
    end
    faults = document["findings"].map do |finding|
      "  #{finding["weight"]}  #{finding["code"]}  #{finding["message"]}"
    end
    [
      title,
      document["reason"] && "  #{document["reason"]}",
      *signals,
      *faults,
      *(document["findings"].empty? ? ["  nothing wrong"] : [])
    ].compact.map do |line|
      Orvant::PersonalData.mask(line)
    end
  end

  private

  def over_all(visits)
    over = told(Orvant::Checks::Tag::Uneven.over(
      visits,
      @watching,
      @signatures.to_h { |one| [one.tag, one.name] }
    ))
    yield({"over_all" => true, "findings" => over}) if over.any?
  end

  # A page's name may be anything, and a file's may not.
  def keep(har, name)
    return unless @har && har

    @kept = @kept.to_i + 1
    FileUtils.mkdir_p(@har)
    File.write(
      File.join(@har, format("%03d-%s.har", @kept, name.gsub(/[^\w.-]+/, "_")[0, Orvant::Cut::QUOTE])),
      JSON.generate(har)
    )
  end

  def told(found)
    @sound &&= found.none? { |one| HEAVY.include?(one.weight) }
    found.map { |one| one.to_h.merge("remedy" => one.remedy.to_h) }
  end

  def page_document(visit, findings)
    {"page" => visit.page,
     "address" => visit.address,
     "final_address" => visit.final_address,
     "reason" => visit.reason,
     "state" => visit.state,
     "states" => visit.states,
     "watched" => visit.watched,
     "tags" => visit.tags,
     "installations" => visit.installations.to_a.map(&:to_h),
     "signals" => visit.signals.map(&:to_h),
     "errors" => visit.errors.to_a,
     "held" => visit.held.to_a.map { |one| one.to_h.slice("host", "address", "way") },
     "trouble" => visit.trouble,
     "not_judged" => (Orvant::Checks::Tag::Refused.witnessed?(visit.signals) ? [] : ["tag/refused"]),
     "findings" => findings}
  end

  def hosts(addresses) = @own.any? ? @own : addresses.map { |text| Orvant::Address.parse(text).host }.uniq

  def convention(own) = Orvant::Convention.read(JSON.parse(File.read(PLAIN)).merge("own_hosts" => own))

  def with_browser(own)
    browser = Orvant::Browser::Sealed.new(
      guard: @guard,
      seal: Orvant::Browser::Seal.new(
        own: Orvant::Hosts.new(own),
        signatures: @signatures,
        collecting: @collecting
      ),
      path: ENV["ORVANT_BROWSER"],
      trusted: ENV["ORVANT_CA_FILE"]
    )
    yield browser
  ensure
    browser&.quit
  end
end
