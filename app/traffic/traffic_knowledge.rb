# frozen_string_literal: true

# Gathers what is known beside a workspace's traffic: its links, its campaigns as rows spell them, and direct
# sessions by page and day where links lead.
class TrafficKnowledge
  BATCH = 500

  # @param workspace [Workspace]
  # @param convention [Orvant::Convention]
  def initialize(workspace, convention)
    @workspace = workspace
    @convention = convention
  end

  # @return [Orvant::Traffic::Knowledge]
  def call
    facts = LinkFacts.new(@workspace).facts
    Orvant::Traffic::Knowledge.new(@convention, facts, campaigns: campaigns, history: history(facts))
  end

  private

  def campaigns = @workspace.combinations.where.not(campaign: "").group(:campaign).sum(:sessions)

  # Of pages to which links lead, and no others: the rest says nothing of any link.
  def history(facts)
    pages = facts.map(&:page).to_h { |page| [page, true] }
    reader = Orvant::Traffic::Knowledge.new(@convention, [])
    landings = direct.distinct.pluck(:landing).group_by { |landing| reader.page(landing) }
      .select { |page, _| pages.key?(page) }
    by_landing = landings.flat_map { |page, some| some.map { |landing| [landing, page] } }.to_h
    days_of(by_landing.keys).each_with_object({}) do |(landing, day, sessions), days|
      (days[by_landing[landing]] ||= Hash.new(0))[day] += sessions
    end
  end

  def direct = @workspace.combinations.where(source: "", medium: "", referrer: "")

  def days_of(landings)
    return [] if landings.empty?

    ids = direct.where(landing: landings).select(:id)
    @workspace.traffic_rows.where(combination_id: ids).joins(:combination)
      .group("combinations.landing", :date)
      .pluck("combinations.landing", :date, Arel.sql("SUM(traffic_rows.sessions)"))
  end
end
