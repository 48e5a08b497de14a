# frozen_string_literal: true

# Chooses the pages of a sweep that are opened in the browser: each own landing page once, with the parameters of one link.
class LandingPages
  # @param sweep [Sweep]
  # @param convention [Orvant::Convention]
  def initialize(sweep, convention)
    @sweep = sweep
    @convention = convention
  end

  # @return [Array<String>] addresses
  def addresses
    return @sweep.scope["pages"] unless @sweep.scope["pages"] == "landing"

    landed = @sweep.link_trails.where(outcome: "landed").group(:landing_page).minimum(:final_address)
    landed.values.select { |address| @convention.own_hosts.cover?(Orvant::Address.new(address).host) }.sort
  end
end
