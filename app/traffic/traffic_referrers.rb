# frozen_string_literal: true

# Whoever sent visits, by sessions, with what the rules take each for; and what is direct or unassigned
# without a cause.
class TrafficReferrers
  # What a referrer can be taken for, and the list of the convention that says so.
  KINDS = {
    "own" => "own_hosts",
    "payment" => "payment_hosts",
    "mail" => "mail_hosts",
    "social" => "social_hosts",
    "search" => "search_hosts",
    "partner" => "partner_hosts"
  }.freeze
  MOST = 2_000
  MOST_OF_REST = 500
  NAMES = %w[channel landing referrer source medium].freeze
  COLUMNS = NAMES.map { |name| "combinations.#{name}" }.freeze

  # @param workspace [Workspace]
  # @param convention [Orvant::Convention]
  def initialize(workspace, convention)
    @workspace = workspace
    @convention = convention
  end

  # @return [Array<Hash{String => Object}>] host, what it is taken for, its channels, sessions, conversions
  #   and revenue
  def hosts
    rows = @workspace.combinations.where.not(referrer: "").group(:referrer, :channel)
      .pluck(:referrer, :channel, Arel.sql("SUM(sessions), SUM(conversions), SUM(revenue)"))
    rows.group_by(&:first).map { |host, same|
      sessions, conversions, revenue = same.map { |one| one.drop(2).map(&:to_i) }.transpose.map(&:sum)
      {
        "host" => host,
        "taken_for" => taken_for(host),
        "channels" => same.sort_by { |one| -one[2].to_i }.map { |one| one[1] }.uniq.first(6),
        "sessions" => sessions,
        "conversions" => conversions,
        "revenue" => revenue
      }
    }.sort_by { |one| -one["sessions"] }.first(MOST)
  end

  # @return [Array<Hash{String => Object}>] by channel, landing page and referrer, the largest first, with the
  #   share of all sessions
  def rest
    total = @workspace.combinations.sum(:sessions)
    sums = (without_cause + of_other_days).group_by { |one| one.first(NAMES.size) }
      .map { |values, same| [values, same.sum { |one| one.last.to_i }] }
    sums.select { |_, sessions| sessions.positive? }.sort_by { |values, sessions|
      [-sessions, values]
    }.first(MOST_OF_REST)
      .map { |values, sessions|
        NAMES.zip(values).to_h.merge(
          "sessions" => sessions,
          "share" => total.zero? ? 0.0 : (sessions.to_f / total).round(4)
        )
      }
  end

  # Takes a host for something from now on: one deed, a new version of the convention.
  #
  # @param host [String]
  # @param kind [String] one of KINDS, or `unknown`
  # @param base [Integer] the version that it was decided on
  # @param author [String]
  # @return [ConventionVersion]
  # @raise [Orvant::Error] where there is no such kind
  def take(host, kind, base:, author:)
    unless KINDS.key?(kind) || kind == "unknown"
      raise Orvant::Error, "A referrer is one of: #{KINDS.keys.join(", ")}, unknown."
    end

    document = @workspace.convention_version.document.dup
    KINDS.each_value { |list| document[list] = document[list].to_a - [host] if document.key?(list) }
    document[KINDS[kind]] = document[KINDS[kind]].to_a + [host] if KINDS.key?(kind)
    ConventionVersion.save!(
      @workspace,
      document,
      base: base,
      note: "#{host} is taken for #{(kind == "unknown") ? "nothing known" : kind}",
      author: author
    )
  end

  private

  def quiet
    {channel: [Orvant::Convention::ChannelRules::DIRECT, Orvant::Convention::ChannelRules::UNASSIGNED]}
  end

  def without_cause
    rows = @workspace.combinations.left_joins(:explanation).where(quiet)
      .where(explanations: {cause: [nil, ""]})
    rows.group(*COLUMNS).pluck(*COLUMNS, Arel.sql("SUM(combinations.sessions)"))
  end

  # Days that are explained otherwise than their combination: those with a cause are none of the rest, those
  # without one belong to it.
  def of_other_days
    on_day, at_end = %w[on_day at_end].map { |name| "COALESCE(#{name}.cause, '') = ''" }
    rows = @workspace.traffic_rows.where.not(explanation_id: nil)
      .joins(:combination).where(combinations: quiet)
      .joins("LEFT JOIN explanations on_day ON on_day.id = traffic_rows.explanation_id LEFT JOIN explanations at_end ON at_end.id = combinations.explanation_id")
    rows.where("(#{on_day}) <> (#{at_end})").group(*COLUMNS)
      .pluck(*COLUMNS,
        Arel.sql("SUM(CASE WHEN #{on_day} THEN traffic_rows.sessions ELSE -traffic_rows.sessions END)"))
  end

  def taken_for(host)
    KINDS.find { |_, list| @convention.public_send(list).cover?(host) }&.first || "unknown"
  end
end
