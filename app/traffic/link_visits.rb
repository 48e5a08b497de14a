# frozen_string_literal: true

# The visits that carry the values of a link: right or wrong in their channel, from first to last; or that
# there are none, and since when there should have been some.
class LinkVisits
  ROLES = %w[source medium campaign content term].freeze

  # @param link [Link]
  # @param address [String] where it reaches an own host, or the link itself
  def initialize(link, address)
    @link = link
    @workspace = link.workspace
    written = Orvant::Inventory::Samples.put_back(Orvant::Address.new(address), LinkEntries.sightings(link))
    @values = @workspace.convention.values_in(written).slice(*ROLES)
      .reject { |_, value| value.to_s.empty? }
  end

  # @return [Hash{String => Object}, nil] values: Hash of role to value · sessions, conversions · first, last:
  #   ISO days of its visits · since: from when on it is known to be out · until: the last day of which there
  #   are rows. nil where it has no values, or no row is there
  def document
    known = @workspace.traffic_days.maximum(:date)
    return if @values.empty? || known.nil?

    sessions, conversions = alike.pick(
      Arel.sql("COALESCE(SUM(sessions), 0)"),
      Arel.sql("COALESCE(SUM(conversions), 0)")
    ).map(&:to_i)
    first, last = sessions.positive? ? days : []
    {
      "values" => @values,
      "sessions" => sessions,
      "conversions" => conversions,
      "first" => first&.iso8601,
      "last" => last&.iso8601,
      "since" => since&.iso8601,
      "until" => known.iso8601
    }
  end

  private

  # A value that the link does not say may be anything; so may what stands where a token does.
  def alike
    @values.reduce(@workspace.combinations) do |rows, (role, value)|
      parts = @workspace.convention.between_tokens(value)
      next rows.where(role => value) if parts.size == 1

      pattern = parts.map { |text| Combination.sanitize_sql_like(text) }.join("%")
      rows.where(Combination.arel_table[role].matches(pattern, "\\", true))
    end
  end

  def days
    rows = @workspace.traffic_rows.where(combination_id: alike.select(:id))
    [rows.minimum(:date), rows.maximum(:date)]
  end

  def since = @link.sightings.where(ended_by_id: nil).minimum(:since)&.to_date
end
