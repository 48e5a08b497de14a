# frozen_string_literal: true

# Gives every session row of a workspace its channel and its causes.
class TrafficExplanation
  # @param workspace [Workspace]
  def initialize(workspace)
    @workspace = workspace
    @knowledge = Orvant::Traffic::Knowledge.new(workspace.convention, LinkFacts.new(workspace).facts)
  end

  # Rows that look alike on one day are explained once.
  #
  # @return [Array<Orvant::Finding>] every cause that was found
  def explain
    @workspace.traffic_rows.in_batches(of: 2_000).flat_map do |batch|
      batch.to_a.group_by { |row| [row.date, *row.row.visit.values] }.values.flat_map { |rows| explain_alike(rows) }
    end
  end

  private

  def explain_alike(rows)
    answer, causes = Orvant::Checks::Traffic.explain(rows.first.row, @knowledge)
    main = causes.first
    facts = {channel: answer.channel,
             because: answer.rule ? "rule #{answer.rule}: #{answer.because}" : answer.because, nearest: answer.nearest,
             cause: main ? main.place["cause"] : "", rightful_channel: main&.place&.fetch("becomes"),
             roots: main ? main.place["roots"] : [],
             causes: causes.map { |cause| {"code" => cause.code, "message" => cause.message, "links" => cause.place["links"]} }}
    rows.each { |row| row.update_columns(facts) if changed?(row, facts) }
    causes
  end

  def changed?(row, facts) = facts.any? { |name, value| row[name] != value }
end
