# frozen_string_literal: true

# What the address bar narrows traffic by: the same for tables, steps and lists of rows.
class TrafficFilters
  # Stands for nothing at all.
  NOTHING = "–"

  # @return [Hash{String => String}] fields of visits, and what they are to hold
  attr_reader :fields

  # @param workspace [Workspace]
  # @param asked [Hash{String => String}] an empty one narrows nothing
  def initialize(workspace, asked)
    @workspace = workspace
    @asked = asked.reject { |_, value| value.to_s.empty? }
    @fields = @asked.slice(*Combination::FIELDS).transform_values { |value| (value == NOTHING) ? "" : value }
  end

  # @return [Range<Date>, nil] nil for all days
  # @raise [Orvant::Error] where it is none
  def period = TrafficPeriod.of(@asked)

  # @return [String, nil]
  def channel = @asked["channel"]

  # @return [Boolean] whether only some combinations are asked for, their channel apart
  def narrowed? = fields.any? || narrowed_beside?

  # @return [Boolean] the same for what stands in no field by itself
  def narrowed_beside? = @asked.keys.intersect?(%w[own segment])

  # @return [ActiveRecord::Relation<Combination>] those that are asked for, their channel apart
  # @raise [Orvant::Error] where a segment is asked for that there is not
  def combinations
    Combination.where(fields).and(TrafficDimension.of_own(@asked["own"]))
      .and(TrafficDimension.of_segment(@workspace, @asked["segment"]))
  end

  # @return [Boolean] whether a cause is asked for, or that there is none
  def cause? = @asked.key?("cause")

  # @return [Boolean] whether rows without a cause are asked for
  def quiet? = @asked["cause"] == NOTHING

  # @return [Hash] the condition for what explains a row
  def causes = if cause?
                 {explanations: {cause: quiet? ? [nil, ""] : @asked["cause"]}}
               else
                 {}
               end
end
