# frozen_string_literal: true

# Follows a landing address once, with parameters on it, and says whether it would lose them on the way.
class LandingCheck
  # @param workspace [Workspace]
  def initialize(workspace)
    @workspace = workspace
    @convention = workspace.convention
  end

  # @param text [String] the landing address as it was entered
  # @return [Hash{String => Object}] outcome, hops, the parameters it loses, and the address that does not,
  #   where there is one
  # @raise [Orvant::Error::UnusableAddress]
  def call(text)
    landing = Orvant::Address.parse(text)
    FollowOnce.for(@workspace) { |follow| found(landing, follow) }
      .tap { |found| FollowedLanding.keep(@workspace, landing, found) }
  end

  private

  def found(landing, follow)
    trail = follow.call(probed(landing))
    lost = lost(trail)
    {"address" => landing.raw,
     "outcome" => trail.outcome,
     "status" => trail.status,
     "reason" => trail.reason,
     "own" => @convention.own_hosts.cover?(landing.host),
     "lost" => lost,
     "hops" => trail.hops.map { |hop|
       {
         "address" => plain(hop.address),
         "status" => hop.status,
         "how" => hop.how
       }
     },
     "offer" => offer(landing, trail, lost, follow)}
  end

  PROBE = "orvant-probe"

  def probed(landing)
    landing.with(added: carriers.reject { |name| landing.occurrences(name).any? }
      .map { |name| [name, PROBE] })
  end

  def carriers = @carriers ||= @convention.roles.map(&:carrier)

  def lost(trail)
    arrived = Orvant::Address.new(trail.final_address).pairs.map(&:name)
    trail.answered? ? carriers - arrived : []
  end

  # Where the way ends without its redirects, nothing can be lost on it.
  def offer(landing, trail, lost, follow)
    return if !trail.landed? || (lost.empty? && trail.hops.size == 1)

    final = Orvant::Address.parse(plain(trail.final_address))
    return if final.normal_form == landing.normal_form
    return unless Orvant::Checks::Trail::Detour.offerable?(landing, final, @convention)

    again = follow.call(probed(final))
    final.raw if again.landed? && lost(again).empty? && again.hops.size == 1
  end

  def plain(text)
    address = Orvant::Address.new(text)
    address.with(edits: address.pairs.select { |pair| pair.value == PROBE }.to_h { |pair| [pair, nil] }).raw
  end
end
