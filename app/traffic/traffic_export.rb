# frozen_string_literal: true

# Writes session rows as CSV, a part at a time, so that a million take no more memory than a thousand. What
# many rows have in common is read, masked and quoted once.
class TrafficExport
  COLUMNS = ["date", "channel", "cause", *Combination::FIELDS, *Combination::MEASURES].freeze
  BATCH = 5_000
  # Combinations whose texts are remembered.
  REMEMBERED = 100_000
  AMOUNTS = %w[revenue cost].map { |name| Combination::MEASURES.index(name) }.freeze

  # @param workspace [Workspace]
  # @param rows [ActiveRecord::Relation<TrafficRow>] its rows, told
  # @param personal [Orvant::PersonalData] what is personal is masked
  def initialize(workspace, rows, personal)
    @workspace = workspace
    # Whose rows they are is looked at afterwards: an index by workspace would be sorted anew for every part.
    figures = Combination::MEASURES.map { |name| "traffic_rows.#{name}" }
    @told = rows.unscope(where: :workspace_id)
      .select("traffic_rows.workspace_id",
        "traffic_rows.combination_id",
        TrafficRow::OF_DAY,
        "traffic_rows.date",
        *figures)
    @personal = personal
    @texts = Orvant::Memory.new(REMEMBERED)
    @cells = Orvant::Memory.new(REMEMBERED)
    @figures = Orvant::Memory.new(REMEMBERED)
  end

  # @yieldparam part [String]
  # @return [Enumerator] without a block
  def each
    return enum_for(:each) unless block_given?

    @causes = @workspace.explanations.pluck(:id, :cause).to_h.transform_values { |cause| cell(cause) }
    yield CSV.generate_line(COLUMNS, row_sep: "\r\n")
    own = @workspace.id
    windows do |window|
      rows = TrafficRow.connection.select_rows(@told.where(id: window).order(:id).to_sql)
      remember(rows.map { |row| row[1] }.uniq)
      text = rows.filter_map { |row| line(row) if row.first.to_i == own }.join
      yield text unless text.empty?
    end
  end

  private

  # Stretches of ids, in their order.
  def windows
    first, last = @workspace.traffic_rows.pick(Arel.sql("MIN(id)"), Arel.sql("MAX(id)"))
    first&.step(last, BATCH) { |from| yield from..(from + BATCH - 1) }
  end

  def remember(ids)
    @texts.fetch_all(ids) do |missing|
      told = Combination.where(id: missing).pluck(:id, :channel, *Combination::FIELDS)
        .to_h { |id, channel, *fields| [id, [cell(channel), fields.map { |text| cell(text) }.join(",")]] }
      told.values_at(*missing)
    end
  end

  def line(row)
    _, combination, explanation, date, *figures = row
    # What has gone since its rows were read has taken them with it.
    channel, fields = @texts.fetch(combination) || return
    "#{date},#{channel},#{@causes.fetch(explanation, "")},#{fields},#{@figures.fetch(figures) { amounts(figures).join(",") }}\r\n"
  end

  def amounts(figures)
    figures.each_with_index.map do |figure, place|
      AMOUNTS.include?(place) ? figure.to_s.rjust(3, "0").insert(-3, ".") : figure
    end
  end

  def cell(text) = text.empty? ? "" : @cells.fetch(text) { written(text) }

  def written(text) = CSV.generate_line([Orvant::Export::CSVTable.neutral(@personal.mask(text))], row_sep: "")
end
