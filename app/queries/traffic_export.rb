# frozen_string_literal: true

# Writes session rows as CSV, a part at a time, so that a million take no more memory than a thousand.
class TrafficExport
  BATCH = 5_000

  # @param rows [ActiveRecord::Relation<TrafficRow>] told
  # @param columns [Array<String>]
  # @param amounts [Array<String>] columns that are kept in cents
  # @param personal [Orvant::PersonalData] what is personal is masked
  def initialize(rows, columns, amounts, personal)
    @rows = rows
    @columns = columns
    @amounts = amounts.map { |name| columns.index(name) }
    @personal = personal

    @cells = {}
  end

  # @yieldparam part [String]
  # @return [Enumerator] without a block
  def each
    return enum_for(:each) unless block_given?

    yield CSV.generate_line(@columns, row_sep: "\r\n")
    last = 0
    loop do
      rows = @rows.where("traffic_rows.id > ?", last).order(:id).limit(BATCH).pluck("traffic_rows.id", *@columns.map { |name| Arel.sql(column(name)) })
      break if rows.empty?

      last = rows.last.first
      yield rows.map { |_, *cells| line(cells) }.join
    end
  end

  private

  def column(name)
    return "COALESCE(explanations.cause, '')" if name == "cause"

    (Combination::FIELDS.include?(name) || name == "channel") ? "combinations.#{name}" : "traffic_rows.#{name}"
  end

  def line(cells)
    @amounts.each { |index| cells[index] = format("%.2f", cells[index] / 100.0) }
    cells.map { |cell| cell.is_a?(String) ? text(cell) : cell.to_s }.join(",") << "\r\n"
  end

  # Few texts stand in very many rows: each is masked and quoted once.
  def text(cell)
    @cells.clear if @cells.size > 100_000
    @cells[cell] ||= CSV.generate_line([Orvant::Export::CSVTable.neutral(@personal.mask(cell))], row_sep: "")
  end
end
