# frozen_string_literal: true

# What networks claim beside what was found in a workspace, by campaign; and orders that two claim or nobody
# brought.
class TrafficClaims
  # Findings on links of a campaign, or on pages where they land, that may explain a difference, as checks on
  # claims say them.
  REASONS = {
    "trail/dropped" => "lossy",
    "trail/overwritten" => "lossy",
    "trail/broken" => "broken",
    "tag/missing" => "silent",
    "tag/silent" => "silent",
    "tag/repeated" => "repeated",
    "tag/stray-conversion" => "stray"
  }.freeze

  # @param workspace [Workspace]
  # @param period [Range<Date>, nil]
  def initialize(workspace, period = nil)
    @workspace = workspace
    @period = period
  end

  # @return [Array<Orvant::Traffic::Reckoning::Line>]
  def lines
    @lines ||=
      if claims.none?
        []
      else
        Orvant::Traffic::Reckoning.lines(claims.map(&:core), names: names, found: found, ordered: ordered)
      end
  end

  # @return [Array<Orvant::Finding>]
  def findings = Orvant::Checks::Traffic.reckon(lines, @workspace.convention, reasons: reasons)

  # @return [Hash{String => Object}]
  def document
    {"period" => {"from" => days&.first&.iso8601, "to" => days&.last&.iso8601},
     "rows" => lines.map { |line| line.to_h.transform_keys(&:to_s) },
     "findings" => findings.map { |one|
       {
         "code" => one.code,
         "weight" => one.weight,
         "message" => one.message,
         "evidence" => one.evidence,
         "network" => one.place["network"],
         "campaign" => one.place["campaign"],
         "action" => one.remedy.action
       }
     },
     "both" => orders.both.size, "nobody" => orders.nobody.size}
  end

  # @return [Hash{Array(String, String) => Array(String, String)}] what a network calls a campaign, in lower
  #   case => source and campaign that the links of its ads carry; a Regexp where a token stands in it
  def names
    @names ||= @workspace.sightings.live.where(kind: "ad").includes(:link).each_with_object({}) do |sighting, known|
      network, campaign = sighting.facts.to_h.values_at("network", "campaign")
      next unless network && campaign

      values = values_of(sighting)
      if values["campaign"].present?
        known[[network.downcase,
          campaign.downcase]] ||= [values["source"], recorded(values["campaign"], campaign)]
      end
    end
  end

  private

  # An example of what the network fills in is no value that a report could hold.
  def values_of(sighting)
    address = Orvant::Address.new(sighting.link.address)
    @workspace.convention.values_in(Orvant::Inventory::Samples.put_back(address, [sighting.core]))
  end

  # A token alone may stand for anything: then the network's own name is the likeliest.
  def recorded(value, campaign)
    pattern = @workspace.convention.filled(value) or return value

    pattern.match?("") ? campaign : pattern
  end

  def claims = @period ? @workspace.claims.where(date: @period) : @workspace.claims

  # Sessions and orders are those of the days of which there are claims.
  def days
    return @days if defined?(@days)

    known = claims.distinct.pluck(:date)
    @days = known.empty? ? nil : known.min..known.max
  end

  def found
    return {} unless days

    columns = %w[combinations.source combinations.campaign]
    rows = @workspace.traffic_rows.where(date: days).joins(:combination)
      .where.not(combinations: {campaign: ""}).group(*columns)
      .pluck(*columns, Arel.sql("SUM(traffic_rows.sessions), SUM(traffic_rows.conversions)"))
    rows.group_by { |names| names.first(2) }
      .transform_values { |same| same.map { |one| one.drop(2).map(&:to_i) }.transpose.map(&:sum) }
  end

  # An order is a campaign's where the last visit with a name before it says so.
  def ordered = orders.by_campaign

  def orders = @orders ||= TrafficOrders.new(@workspace, days)

  def reasons
    known = Hash.new { |all, name| all[name] = [] }
    found = @workspace.findings.standing.where(code: REASONS.keys)
    (found.joins(:link).pluck(:code, "links.address") + on_pages(found)).each do |code, address|
      campaign = @workspace.convention.value_in(Orvant::Address.new(address), "campaign")
      known[campaign.downcase] |= [REASONS[code]] if campaign.present?
    end
    orders.shared.each { |name| known[name] |= ["shared"] }
    known
  end

  # @return [Array<Array(String, String)>] codes, and addresses of the links that land where they were found
  def on_pages(found)
    codes = found.where.not(page: nil).pluck(:page, :code).group_by(&:first).transform_values do |same|
      same.map(&:last).uniq
    end
    landed = LinkTrail.joins(:link).where(
      links: {workspace_id: @workspace.id, retired_at: nil},
      landing_page: codes.keys
    ).distinct
      .pluck(:landing_page, "links.address")
    landed.flat_map { |page, address| codes.fetch(page).map { |code| [code, address] } }
  end
end
