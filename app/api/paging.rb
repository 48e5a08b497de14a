# frozen_string_literal: true

require "base64"

# Pages a sorted list by cursor: a cursor holds the sort value and the id of the last row, so that no page
# costs more than another.
module Paging
  MOST = 500
  # Those that a database keeps whole.
  NUMBERS = (-(2**63)..(2**63 - 1))

  # @param relation [ActiveRecord::Relation]
  # @param sorts [Hash{String => String, Arel::Attribute}] permitted sorts and their columns, those of what a
  #   row belongs to among them; the first is the usual one
  # @yieldparam order [Symbol] :asc or :desc
  # @yieldparam after [Array(Object, Integer), nil] value and id with which the page before ends
  # @yieldparam count [Integer]
  # @yieldreturn [ActiveRecord::Relation, nil] fewer rows that may hold as many of the next ones; where
  #   they do not, all are looked through
  # @return [Array(Array, String)] the rows and the next cursor, nil at the end
  def paged(relation, sorts)
    column = sorts[params["sort"]] || sorts.values.first
    order = (params["direction"] == "down") ? :desc : :asc
    limit = params.fetch("limit", 100).to_i.clamp(1, MOST)
    column = relation.klass.arel_table[column] unless column.is_a?(Arel::Attributes::Attribute)
    after = cursor_given
    nearest = yield(order, after, limit + 1) if block_given?
    rows = next_rows(nearest, column, order, after, limit) if nearest
    rows = next_rows(relation, column, order, after, limit) unless rows && rows.size > limit
    more = rows.size > limit
    rows = rows.first(limit)
    [rows, more ? cursor(rows.last, column) : nil]
  end

  private

  def cursor(row, column)
    value =
      if column.relation == row.class.arel_table
        row[column.name]
      else
        row.public_send(column.relation.name.singularize)[column.name]
      end
    Base64.urlsafe_encode64(
      JSON.generate([value.respond_to?(:iso8601) ? value.iso8601 : value, row.id]),
      padding: false
    )
  end

  def next_rows(relation, column, order, after, limit)
    id = relation.klass.arel_table[:id]
    further(relation, column, order, after).order(column.public_send(order), id.public_send(order))
      .limit(limit + 1).to_a
  end

  def further(relation, column, order, after)
    return relation unless after

    value, id = after
    beyond = (order == :desc) ? :lt : :gt
    relation.where(column.public_send(beyond, value)
      .or(column.eq(value).and(relation.klass.arel_table[:id].public_send(beyond, id))))
  end

  # @return [Array(Object, Integer), nil] value and id of the last row before
  def cursor_given
    return if params["cursor"].to_s.empty?

    JSON.parse(Base64.urlsafe_decode64(params["cursor"])).tap { |given| unreadable unless place?(given) }
  rescue ArgumentError, JSON::ParserError
    unreadable
  end

  # Whether it is a place in a list as `cursor` writes it.
  def place?(given)
    return false unless given.is_a?(Array) && given.size == 2

    value, id = given
    NUMBERS.cover?(id) && id.is_a?(Integer) && value?(value)
  end

  def value?(value)
    case value
    when Integer then NUMBERS.cover?(value)
    when String then !value.include?("\0")
    else value.nil? || value.is_a?(Float)
    end
  end

  def unreadable
    raise Problem.new(
      :unusable_input,
      "The cursor of the list cannot be read; begin at the top of the list again."
    )
  end
end
