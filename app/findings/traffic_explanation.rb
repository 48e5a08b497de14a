# frozen_string_literal: true

require "digest"

# Gives every session row of a workspace its channel and its causes.
class TrafficExplanation
  BATCH = 250
  # So many rows that look different are remembered with what explains them.
  REMEMBERED = 20_000

  # @param workspace [Workspace]
  def initialize(workspace)
    @workspace = workspace
    @version = workspace.convention_version
    @knowledge = Orvant::Traffic::Knowledge.new(@version.convention, LinkFacts.new(workspace).facts)
    @fixes = []
    @explained = Orvant::Memory.new(REMEMBERED)
  end

  # @return [Array<Integer>] ids of the fixes that no finding on a link stands behind
  attr_reader :fixes

  # Explains what is new; all again only where the rules or what is known of links are others than last time.
  #
  # @return [TrafficExplanation] itself
  def explain
    known = Digest::SHA256.hexdigest(Marshal.dump([@version.id, @knowledge.facts.map(&:to_a)]))
    rows = @workspace.traffic_rows
    rows = rows.where(because: "") if known == @workspace.explained_by
    rows.in_batches(of: BATCH) { |batch| explain_batch(batch.to_a) }
    Explanation.forget_unused(@workspace)
    @workspace.update_columns(explained_by: known)
    self
  end

  private

  def explain_batch(rows)
    changed = rows.group_by { |row| facts_of(row) }.to_h { |facts, alike| [facts, alike.select { |row| facts.any? { |name, value| row[name] != value } }] }
    ActiveRecord::Base.transaction { changed.each { |facts, alike| TrafficRow.where(id: alike.map(&:id)).update_all(facts) if alike.any? } }
  end

  # Rows that look alike on days on which the same links were out are explained once.
  def facts_of(row)
    @explained.fetch([@knowledge.era(row.date), *row.row.visit.values]) { explained(row) }
  end

  def explained(row)
    answer, causes = Orvant::Checks::Traffic.explain(row.row, @knowledge)
    keep_fixes(causes)
    main = causes.first
    {channel: answer.channel, because: answer.rule ? "rule #{answer.rule}: #{answer.because}" : answer.because, nearest: answer.nearest, cause: main ? main.place["cause"] : "",
     rightful_channel: main&.place&.fetch("becomes"), explanation_id: explanation(causes, main ? main.place["roots"] : [])}
  end

  def explanation(causes, roots)
    Explanation.id_of(@workspace, causes.map { |cause| {"code" => cause.code, "message" => cause.message, "links" => cause.place["links"]} }, roots)
  end

  # Causes that no finding on a link explains, such as an own host as referrer, are fixes of their own.
  def keep_fixes(causes)
    causes.select(&:remedy).each do |cause|
      next unless cause.root

      group = Orvant::Fix.new(root: cause.root, codes: [cause.code], weight: cause.weight, action: cause.remedy.action, value: cause.remedy.value, at: cause.remedy.at, place: cause.remedy.place, owner: "", findings: [])
      @fixes |= [(@workspace.fixes.find_by(root: cause.root) || Fix.begin(@workspace, group)).id]
    end
  end
end
