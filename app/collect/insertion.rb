# frozen_string_literal: true

# Rows that are to be added in one statement. Its values are written when this is made, which takes longer
# than to run it: whoever holds the database meanwhile keeps all others waiting.
class Insertion
  # What databases take for more than itself within quotes.
  ESCAPED = /['\\\0]/
  # Types whose values are written as they are.
  PLAIN = %i[string text].freeze

  # @return [Integer] how many rows it was made of
  attr_reader :count

  # @param model [Class<ActiveRecord::Base>]
  # @param rows [Array<Hash{Symbol => Object}>] all with the same columns
  # @param known_by [Array<Symbol>] columns of an index by which a row may be there already
  # @param anew [Array<Symbol>] columns that such a row takes from the new one; none leaves it as it is
  # @param later [Symbol, nil] a further column, whose numbers are known only when it is run
  def initialize(model, rows, known_by: [], anew: [], later: nil)
    @model = model
    @connection = model.connection
    @count = rows.size
    @columns = [*rows.first&.keys, *later]
    @values = written(rows)
    @known = known(known_by, anew)
  end

  # Runs it; without rows there is nothing to run.
  #
  # @param later [Array<Integer>, nil] one for each row
  def call(later = nil)
    return if @values.empty?

    values = later ? @values.zip(later.map { |number| Integer(number) }).map { |row| row.join(",") } : @values
    @connection.execute(<<~SQL)
      INSERT INTO #{@model.quoted_table_name} (#{quoted_names(@columns)}) VALUES (#{values.join("),(")}) #{@known}
    SQL
  end

  private

  # @return [Array<String>] the values of each row
  def written(rows)
    return [] if rows.empty?

    names = rows.first.keys
    types = names.map { |name| @model.type_for_attribute(name) }
    rows.map { |row| row.fetch_values(*names).zip(types).map { |pair| quoted(*pair) }.join(",") }
  end

  # What most cells hold needs no type to be written.
  def quoted(value, type)
    return "NULL" if value.nil?
    return @connection.quote(JSON.generate(value)) if type.is_a?(ActiveRecord::Type::Json)

    case value
    when "" then "''"
    when String then text(value, type)
    when Integer then value.to_s
    # All rows of a batch are written at one moment.
    when Time then (@times ||= {})[value] ||= @connection.quote(type.serialize(value))
    else @connection.quote(type.serialize(value))
    end
  end

  # Where nothing is to be escaped, nothing is looked at sign by sign.
  def text(value, type)
    return "'#{value}'" if PLAIN.include?(type.type) && !value.match?(ESCAPED)

    @connection.quote(type.serialize(value))
  end

  def known(by, anew)
    return if by.empty?

    sets = anew.map { |name| "#{quoted_names([name])} = excluded.#{quoted_names([name])}" }
    "ON CONFLICT (#{quoted_names(by)}) DO #{sets.empty? ? "NOTHING" : "UPDATE SET #{sets.join(",")}"}"
  end

  def quoted_names(names) = names.map { |name| @connection.quote_column_name(name) }.join(",")
end
