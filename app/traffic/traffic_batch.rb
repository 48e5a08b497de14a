# frozen_string_literal: true

# Rows of traffic that wait to be stored together. Combinations, days and figures are told apart as objects:
# the reader gives the same one for the same value.
class TrafficBatch
  # @return [Integer] rows that stand in it
  attr_reader :size

  # @param measured [Array<Integer>] which of the measures are stored
  def initialize(measured)
    @measured = measured
    clear
  end

  # Rows of one day that say the same and follow one another (a report by hour, or with columns that are not
  # read) are added up.
  #
  # @param combination [Orvant::Traffic::Combination]
  # @param day [Date]
  # @param measures [Array<Integer>]
  def add(combination, day, measures)
    place = @latest[combination]
    if place && @days[place].equal?(day)
      before = @measures[place]
      @measures[place] = Array.new(measures.size) { |index| before[index] + measures[index] }
    else
      @latest[combination] = @size
      @combinations << combination
      @days << day
      @measures << measures
      @size += 1
    end
  end

  # @return [Array<Orvant::Traffic::Combination>] each once
  def combinations = @latest.keys

  # @param ids [Orvant::Memory] knows the number of each combination, as it stands in a statement
  # @return [Hash{Date => String}] by day, the rows as they stand in a statement
  def by_day(ids)
    rows = {}.compare_by_identity
    figures = figures_of_rows
    @days.each_with_index do |day, place|
      (rows[day] ||= +"(") << ids.fetch(@combinations[place]) << figures[@measures[place]]
    end
    rows.transform_values { |text| text.delete_suffix(",(") }
  end

  # @param ids [Orvant::Memory] knows the number of each combination, as it stands in a statement
  # @return [String] number and day of each row, as they stand in a statement
  def pairs(ids)
    @combinations.zip(@days).map { |one, day| "(#{ids.fetch(one)},'#{day.iso8601}')" }.join(",")
  end

  # Empties it.
  def clear
    @latest = {}.compare_by_identity
    @combinations, @days, @measures = [], [], []
    @size = 0
  end

  private

  def figures_of_rows
    Hash.new { |said, measures| said[measures] = ",#{measures.values_at(*@measured).join(",")}),(" }
      .compare_by_identity
  end
end
