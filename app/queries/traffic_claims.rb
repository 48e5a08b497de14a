# frozen_string_literal: true

# What networks claim beside what was found in a workspace, by campaign; and orders that two claim or nobody brought.
class TrafficClaims
  # Findings on links of a campaign that may explain a difference, as checks on claims say them.
  REASONS = {"trail/dropped" => "lossy", "trail/overwritten" => "lossy", "trail/broken" => "broken", "tag/missing" => "silent", "tag/silent" => "silent", "tag/repeated" => "repeated", "journey/repeated" => "repeated", "tag/stray-conversion" => "stray"}.freeze

  # @param workspace [Workspace]
  # @param period [Range<Date>, nil]
  def initialize(workspace, period = nil)
    @workspace = workspace
    @period = period
  end

  # @return [Array<Orvant::Traffic::Reckoning::Line>]
  def lines = @lines ||= Orvant::Traffic::Reckoning.lines(claims.map(&:core), names: names, found: found, ordered: ordered)

  # @return [Array<Orvant::Finding>]
  def findings = Orvant::Checks::Traffic.reckon(lines, @workspace.convention, reasons: reasons)

  # @return [Hash{String => Object}]
  def document
    days = claims.pluck(Arel.sql("MIN(date)"), Arel.sql("MAX(date)")).first
    {"period" => {"from" => days&.first&.to_s.presence, "to" => days&.last&.to_s.presence}, "rows" => lines.map { |line| line.to_h.transform_keys(&:to_s) },
     "findings" => findings.map { |one| {"code" => one.code, "weight" => one.weight, "message" => one.message, "evidence" => one.evidence, "network" => one.place["network"], "campaign" => one.place["campaign"], "action" => one.remedy.action} },
     "both" => orders.both.size, "nobody" => orders.nobody.size}
  end

  # @return [Hash{Array(String, String) => Array(String, String)}] what a network calls a campaign, in lower case => source and campaign that the
  #   links of its ads carry
  def names
    @names ||= @workspace.sightings.live.where(kind: "ad").includes(:link).each_with_object({}) do |sighting, known|
      network, campaign = sighting.facts.to_h.values_at("network", "campaign")
      values = (network && campaign) ? @workspace.convention.values_in(Orvant::Address.new(sighting.link.address)) : {}
      known[[network.downcase, campaign.downcase]] ||= values.values_at("source", "campaign") if values["campaign"].present?
    end
  end

  private

  def claims = @period ? @workspace.claims.where(date: @period) : @workspace.claims

  # As many days of sessions as of claims.
  def found
    days = claims.distinct.pluck(:date)
    return {} if days.empty?

    columns = %w[combinations.source combinations.campaign]
    rows = @workspace.traffic_rows.where(date: days.min..days.max).joins(:combination).where.not(combinations: {campaign: ""}).group(*columns).pluck(*columns, Arel.sql("SUM(traffic_rows.sessions), SUM(traffic_rows.conversions)"))
    rows.group_by { |names| names.first(2) }.transform_values { |same| same.map { |one| one.drop(2).map(&:to_i) }.transpose.map(&:sum) }
  end

  # An order is a campaign's where the last visit with a name before it says so.
  def ordered = orders.by_campaign

  def orders = @orders ||= TrafficOrders.new(@workspace, @period)

  def reasons
    known = Hash.new { |all, name| all[name] = [] }
    @workspace.findings.standing.where(code: REASONS.keys).where.not(link_id: nil).includes(:link).find_each do |finding|
      campaign = @workspace.convention.value_in(Orvant::Address.new(finding.link.address), "campaign")
      known[campaign.downcase] |= [REASONS[finding.code]] if campaign.present?
    end
    orders.shared.each { |name| known[name] |= ["shared"] }
    known
  end
end
