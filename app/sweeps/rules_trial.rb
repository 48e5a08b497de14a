# frozen_string_literal: true

# What rules that are still being written would do: which sessions each channel rule catches now, where one
# visit would go, and what a click pattern would become.
class RulesTrial
  # @param workspace [Workspace]
  # @param convention [Orvant::Convention] as it would be
  def initialize(workspace, convention)
    @workspace = workspace
    @convention = convention
  end

  # @param visit [Hash{String => String}, nil] source, medium and so on
  # @param network [String, nil] of the pattern
  # @param pattern [String, nil] a click pattern
  # @return [Hash{String => Object}] caught: Array of sessions, by rule · unassigned, sessions: Integer ·
  #   visit, click: nil where not asked
  # @raise [Orvant::Error] where the pattern cannot be read
  def document(visit: nil, network: nil, pattern: nil)
    {
      "faults" => [],
      **sessions,
      "visit" => visit && classified(visit),
      "click" => pattern.to_s.empty? ? nil : click(network.to_s, pattern)
    }
  end

  private

  def rules = @convention.channel_rules

  def sessions
    sums = rules.fields.empty? ? {} : @workspace.combinations.group(*rules.fields).sum(:sessions)
    caught = sums.each_with_object(Hash.new(0)) do |(said, count), counts|
      counts[rules.classify(rules.fields.zip(Array(said)).to_h).rule] += count
    end
    {
      "caught" => (1..rules.rules.size).map { |number| caught[number] },
      "unassigned" => caught[nil],
      "sessions" => sums.values.sum
    }
  end

  def classified(visit)
    answer = rules.classify(visit)
    {
      "channel" => answer.channel,
      "rule" => answer.rule,
      "because" => answer.because,
      "nearest" => answer.nearest
    }
  end

  def click(network, pattern)
    dialect = @convention.dialects.find { |one| one.network == network } or raise Orvant::Error, "There is no network “#{network[0, Orvant::Cut::QUOTE]}” in these rules."
    landing = "http://#{@convention.own_hosts.names.first.to_s.delete_prefix("*.")}/"
    level = Orvant::Inventory::Level.new(name: "ad", landing: landing, pattern: pattern, tail: "")
    Orvant::Inventory::ClickAddress.new([level], dialect).to_h
      .slice("address", "empty", "unknown", "warnings")
  end
end
