# frozen_string_literal: true

# Rows that are to be added in one statement. It is written when this is made, which takes longer than to run
# it: whoever holds the database meanwhile keeps all others waiting.
class Insertion
  # @return [Integer] how many rows it was made of
  attr_reader :count

  # @param model [Class<ActiveRecord::Base>]
  # @param rows [Array<Hash{Symbol => Object}>] all with the same columns
  # @param known_by [Array<Symbol>] columns of an index by which a row may be there already
  # @param anew [Array<Symbol>] columns that such a row takes from the new one; none leaves it as it is
  def initialize(model, rows, known_by: [], anew: [])
    @connection = model.connection
    @count = rows.size
    @statement = [written(model, rows), *known(known_by, anew)].join(" ") if rows.any?
  end

  # Runs it; without rows there is nothing to run.
  def call
    @connection.execute(@statement) if @statement
  end

  private

  def written(model, rows)
    names = rows.first.keys
    types = names.map { |name| model.type_for_attribute(name) }
    values = rows.map { |row| "(#{row.fetch_values(*names).zip(types).map { |pair| quoted(*pair) }.join(",")})" }
    "INSERT INTO #{model.quoted_table_name} (#{columns(names)}) VALUES #{values.join(",")}"
  end

  # What most cells hold needs no type to be written.
  def quoted(value, type)
    return "NULL" if value.nil?
    return @connection.quote(JSON.generate(value)) if type.is_a?(ActiveRecord::Type::Json)

    case value
    when "" then "''"
    when Integer then value.to_s
    else @connection.quote(type.serialize(value))
    end
  end

  def known(by, anew)
    return if by.empty?

    sets = anew.map { |name| "#{columns([name])} = excluded.#{columns([name])}" }
    "ON CONFLICT (#{columns(by)}) DO #{sets.empty? ? "NOTHING" : "UPDATE SET #{sets.join(",")}"}"
  end

  def columns(names) = names.map { |name| @connection.quote_column_name(name) }.join(",")
end
