# frozen_string_literal: true

# Whoever sent visits, by sessions, with what the rules take each for; and what is direct or unassigned without a cause.
class TrafficReferrers
  # What a referrer can be taken for, and the list of the convention that says so.
  KINDS = {"own" => "own_hosts", "payment" => "payment_hosts", "mail" => "mail_hosts", "social" => "social_hosts", "search" => "search_hosts", "partner" => "partner_hosts"}.freeze
  MOST = 2_000

  # @param workspace [Workspace]
  # @param convention [Orvant::Convention]
  def initialize(workspace, convention)
    @workspace = workspace
    @convention = convention
  end

  # @return [Array<Hash{String => Object}>] host, what it is taken for, its channels, sessions, conversions and revenue
  def hosts
    rows = @workspace.combinations.where.not(referrer: "").group(:referrer, :channel).pluck(:referrer, :channel, Arel.sql("SUM(sessions), SUM(conversions), SUM(revenue)"))
    rows.group_by(&:first).map { |host, same|
      sessions, conversions, revenue = same.map { |one| one.drop(2).map(&:to_i) }.transpose.map(&:sum)
      {"host" => host, "taken_for" => taken_for(host), "channels" => same.sort_by { |one| -one[2].to_i }.map { |one| one[1] }.uniq.first(6), "sessions" => sessions, "conversions" => conversions, "revenue" => revenue}
    }.sort_by { |one| -one["sessions"] }.first(MOST)
  end

  # @return [Array<Hash{String => Object}>] by channel, landing page and referrer, the largest first, with the share of all sessions
  def rest
    total = @workspace.combinations.sum(:sessions)
    quiet = @workspace.combinations.left_joins(:explanation).where(channel: [Orvant::Convention::ChannelRules::DIRECT, Orvant::Convention::ChannelRules::UNASSIGNED]).where(explanations: {cause: [nil, ""]})
    columns = %w[channel landing referrer source medium].map { |name| "combinations.#{name}" }
    quiet.group(*columns).order(Arel.sql("SUM(combinations.sessions) DESC")).limit(500).pluck(*columns, Arel.sql("SUM(combinations.sessions)"))
      .map { |*values, sessions| %w[channel landing referrer source medium].zip(values).to_h.merge("sessions" => sessions.to_i, "share" => total.zero? ? 0.0 : (sessions.to_f / total).round(4)) }
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
    raise Orvant::Error, "A referrer is one of: #{KINDS.keys.join(", ")}, unknown." unless KINDS.key?(kind) || kind == "unknown"

    document = @workspace.convention_version.document.dup
    KINDS.each_value { |list| document[list] = document[list].to_a - [host] if document.key?(list) }
    document[KINDS[kind]] = document[KINDS[kind]].to_a + [host] if KINDS.key?(kind)
    ConventionVersion.save!(@workspace, document, base: base, note: "#{host} is taken for #{(kind == "unknown") ? "nothing known" : kind}", author: author)
  end

  private

  def taken_for(host)
    KINDS.find { |_, list| @convention.public_send(list).cover?(host) }&.first || "unknown"
  end
end
