# frozen_string_literal: true

# Gathers what is known beside a workspace's traffic: its links, its campaigns as rows spell them, and direct sessions by page and day where
# links lead.
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
    direct = @workspace.combinations.where(source: "", medium: "", referrer: "").pluck(:landing, :id)
    known = direct.group_by { |landing, _| landing }.transform_keys { |landing| reader.page(landing) }.select { |page, _| pages.key?(page) }
    known.each_with_object({}) { |(page, some), days| add(days[page] ||= Hash.new(0), some.map(&:last)) }
  end

  def add(days, ids)
    ids.each_slice(BATCH) { |some| TrafficRow.where(combination_id: some).group(:date).sum(:sessions).each { |day, sessions| days[day] += sessions } }
  end
end
