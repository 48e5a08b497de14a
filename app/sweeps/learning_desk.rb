# frozen_string_literal: true

# Gathers what is written on the links and in the traffic of a workspace, for a convention to be learned from.
class LearningDesk
  # @param workspace [Workspace]
  def initialize(workspace)
    @workspace = workspace
    @carriers = workspace.convention.roles.reject(&:free_text?).to_h { |role| [role.name, role.carriers] }
  end

  # @return [Array<Orvant::Convention::Learning::Proposal>]
  def proposals = Orvant::Convention::Learning.new(seen, carriers: @carriers).proposals

  private

  def seen = from_links + from_traffic

  def from_links
    LinkEntries.new(@workspace).to_a.select { |entry|
      @workspace.convention.applies_to?(entry.address, kind: entry.kind)
    }
      .map { |entry|
        Orvant::Convention::Learning::Seen.new(
          values: entry.address.pairs.reverse.to_h { |pair| [pair.name, pair.value] },
          links: 1,
          sessions: 0
        )
      }
  end

  def from_traffic
    fields = %w[source medium campaign content] & @carriers.keys
    @workspace.combinations.where.not(medium: "").group(*fields).sum(:sessions).map do |values, sessions|
      Orvant::Convention::Learning::Seen.new(
        values: fields.zip(Array(values)).reject { |_, text| text.to_s.empty? }
          .to_h { |role, text| [@carriers[role].first, text] },
        links: 0,
        sessions: sessions
      )
    end
  end
end
