# frozen_string_literal: true

require "base64"

# Pages a sorted list by cursor: a cursor holds the sort value and the id of the last row, so that no page
# costs more than another.
module Paging
  MOST = 500

  # @param relation [ActiveRecord::Relation]
  # @param sorts [Hash{String => String, Arel::Attribute}] permitted sorts and their columns, those of what a
  #   row belongs to among them; the first is the usual one
  # @return [Array(Array, String)] the rows and the next cursor, nil at the end
  def paged(relation, sorts)
    column = sorts[params["sort"]] || sorts.values.first
    order = (params["direction"] == "down") ? :desc : :asc
    limit = params.fetch("limit", 100).to_i.clamp(1, MOST)
    column = relation.klass.arel_table[column] unless column.is_a?(Arel::Attributes::Attribute)
    rows = after_cursor(relation, column, order).order(
      column.public_send(order),
      relation.klass.arel_table[:id].public_send(order)
    ).limit(limit + 1).to_a
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

  def after_cursor(relation, column, order)
    return relation if params["cursor"].to_s.empty?

    value, id = JSON.parse(Base64.urlsafe_decode64(params["cursor"]))
    name = column
    table = relation.klass.arel_table
    further = (order == :desc) ? name.lt(value) : name.gt(value)
    beyond = (order == :desc) ? table[:id].lt(id) : table[:id].gt(id)
    relation.where(further.or(name.eq(value).and(beyond)))
  rescue ArgumentError, JSON::ParserError, TypeError
    raise Problem.new(
      :unusable_input,
      "The cursor of the list cannot be read; begin at the top of the list again."
    )
  end
end
