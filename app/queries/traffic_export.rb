# frozen_string_literal: true

# Writes session rows as CSV, a part at a time, so that a million take no more memory than a thousand.
class TrafficExport
  BATCH = 5_000

  # @param workspace [Workspace]
  # @param rows [ActiveRecord::Relation<TrafficRow>] its rows, told
  # @param columns [Array<String>]
  # @param amounts [Array<String>] columns that are kept in cents
  # @param personal [Orvant::PersonalData] what is personal is masked
  def initialize(workspace, rows, columns, amounts, personal)
    @workspace_id = workspace.id
    @told = rows.unscope(where: :workspace_id)
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
    windows do |window|
      rows = @told.where(id: window).order(:id).pluck("traffic_rows.workspace_id", *@columns.map { |name| Arel.sql(column(name)) })
      mine = rows.select { |workspace, *| workspace == @workspace_id }
      yield mine.map { |_, *cells| line(cells) }.join if mine.any?
    end
  end

  private

  # Stretches of ids, read in their order: whose rows they are is looked at afterwards, since an index by workspace would be sorted anew
  # for every part.
  def windows
    first, last = TrafficRow.where(workspace_id: @workspace_id).pick(Arel.sql("MIN(id)"), Arel.sql("MAX(id)"))
    first&.step(last, BATCH) { |from| yield from..(from + BATCH - 1) }
  end

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
