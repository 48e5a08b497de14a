# frozen_string_literal: true

# Keeps the session rows of a file. Days that the same source has brought before are brought anew: the new
# figures hold, and those before are kept for taking this back.
class TrafficImporting < Importing
  # Rows that are kept in one transaction.
  BATCH = 5_000
  MEASURES = Orvant::Traffic::MEASURES
  # Kinds of import that bring session rows.
  KINDS = %w[traffic logs].freeze
  COLUMNS = [:workspace_id, :import_id, :combination_id, :date, *MEASURES].freeze
  # Combinations that are added in one statement, and whose ids are remembered.
  NUMBERED = 500
  REMEMBERED = 300_000

  # It is read bit by bit.
  def self.content(path) = Pathname(path)

  # @return [Hash{String => Object}] what an import would do
  def preview
    rows = Orvant::Traffic::MEASURES
    sums, sample, days = {}, [], {}
    @read.each do |combination, day, measures, line|
      sums[[combination, day]] = (sums[[combination, day]] || [0] * rows.size).zip(measures).map(&:sum)
      days[day] = true
      sample << Orvant::Traffic::Row.of(combination, day, measures, line: line) if sample.size < SAMPLE
    end
    before = stored_on(days.keys)
    same = sums.count { |(combination, day), _| before.key?([combination.digest, day]) }
    {"columns" => @read.columns,
     "header" => header,
     "fields" => fields,
     "encoding" => @read.encoding,
     "notes" => @read.notes + overlap(before, sums),
     "rows" => sums.size,
     "new" => sums.size - same,
     "already" => same,
     "apart" => [],
     "changes" => [],
     "sample" => sample.map { |row| document(row) },
     "rejected" => rejected}
  end

  # What a file that is too large for a first look would replace, by a glance at its days.
  #
  # @param bytes [String] all of it
  # @return [Array<String>] in sentences
  def coming_again(bytes)
    days = reading(bytes).glance unless @source.empty?
    rows = days ? same_source.where(date: days).count : 0
    return [] if rows.zero?

    ["Its days run from #{days.begin.iso8601} to #{days.end.iso8601}; of these, #{Orvant::Words.counted(rows, "row")} of “#{@source}” #{(rows == 1) ? "is" : "are"} there already and will be replaced."]
  end

  private

  def keep_all = Database.remembering { keep }

  def keep
    @import.update!(
      rejected: [],
      notes: [],
      apart: [],
      differences: [],
      done: 0,
      total: @size,
      state: "running"
    )
    forget_half
    read_all
    ended = @import.stopping? ? "stopped" : "done"
    Combination.renew(@workspace)
    compared = compare
    @import.update!(
      rejected: rejected,
      notes: @read.notes + notes(compared),
      added: compared[:new],
      already: compared[:same],
      done: @size,
      state: ended
    )
  end

  def usual_kind = "traffic"

  def forget_half
    mine = TrafficRow.where(import_id: @import.id)
    mine.in_batches(of: BATCH) do |some|
      ActiveRecord::Base.transaction do
        Combination.touch_all_of(Combination.where(id: some.select(:combination_id)))
        TrafficRow.changed(@workspace, some.distinct.pluck(:date))
        some.delete_all
      end
    end
  end

  def reading(bytes)
    @size = bytes.is_a?(Pathname) ? bytes.size : bytes.bytesize
    from = bytes.is_a?(Pathname) ? {path: bytes.to_s} : {bytes: bytes}
    Orvant::Traffic::SessionTable.new(
      **from,
      matching: @options[:matching] || ColumnMatching.for(@workspace, "traffic"),
      dates: @options[:dates]
    )
  end

  def fields = Orvant::Traffic::SessionTable.fields

  def read_all
    @ids = Orvant::Memory.of_objects(REMEMBERED)
    @told = {}.compare_by_identity
    waiting = TrafficBatch.new(@read.measured)
    @read.each do |combination, day, measures, _line|
      waiting.add(combination, day, measures)
      next if waiting.size < BATCH

      flush(waiting)
      break if @import.stopping?
    end
    flush(waiting) unless @import.stopping?
  end

  def flush(waiting)
    ActiveRecord::Base.transaction { store(waiting) } if waiting.size.positive?
    @kept = @kept.to_i + waiting.size
    waiting.clear
    @import.update_columns(done: @read.done, added: @kept, updated_at: Time.now.utc)
  end

  def store(waiting)
    numbers = @ids.fetch_all(waiting.combinations) { |fresh| numbered(fresh) }
    Combination.touch_all_of(Database.among(Combination, numbers))
    rows = waiting.by_day(@ids)
    make_room(waiting, rows.keys)
    insert(rows)
  end

  # @return [Array<String>] their ids, as these stand in a statement
  def numbered(combinations)
    add(combinations)
    known = @workspace.combinations.where(digest: combinations.map(&:digest)).pluck(:digest, :id).to_h
    combinations.map { |one| known.fetch(one.digest).to_s.freeze }
  end

  # Tens of thousands stand in one file: they are written in few statements.
  def add(combinations)
    combinations.each_slice(NUMBERED) do |some|
      rows = some.map { |one| {workspace_id: @workspace.id, **Combination.columns_of(one)} }
      Insertion.new(Combination, rows, known_by: %i[workspace_id digest]).call
    end
  end

  # Whole numbers and days as they were read: nothing that a file says stands in the statements. What rows
  # have in common stands in each once, since reading a statement takes longer than running it.
  def insert(rows)
    rows.each do |day, said|
      TrafficRow.connection.execute(
        "INSERT INTO traffic_rows (#{[*COLUMNS.first(4), *MEASURES.values_at(*@read.measured)].join(", ")}) " \
        "SELECT #{@workspace.id}, #{@import.id}, column1, CAST('#{day.iso8601}' AS #{Database.day_type}), #{value_names} FROM (VALUES #{said}) AS said"
      )
    end
  end

  # The names that both SQLite and PostgreSQL give to columns of VALUES.
  def value_names = Array.new(@read.measured.size) { |index| "column#{index + 2}" }.join(", ")

  # What a named source has brought of these days goes as a whole; of sources without a name only what is said
  # of the same visits.
  def make_room(waiting, days)
    fresh = days.reject { |day| @told.key?(day) }
    fresh.each { |day| @told[day] = true }
    # Rows of the same days that came before may have been summed meanwhile.
    TrafficRow.changed(@workspace, days)
    return unless came_before?

    before = same_source
    before =
      if @source.empty?
        before.where("(combination_id, date) IN (#{waiting.pairs(@ids)})")
      else
        before.where(date: fresh)
      end
    Combination.touch_all_of(Combination.where(id: before.select(:combination_id)))
    TrafficRow.connection.execute("INSERT INTO replaced_rows (#{COLUMNS.join(", ")}, replaced_by_id) #{before.select(*COLUMNS, @import.id.to_s).to_sql}")
    before.delete_all
  end

  def came_before? = (@came_before.nil? ? @came_before = same_source.exists? : @came_before)

  def same_source
    imports = @workspace.imports.where(kind: KINDS, source: @source).where.not(id: @import&.id)
    @workspace.traffic_rows.where(import_id: imports.select(:id))
  end

  # @return [Hash{Array => Array<Integer>}] figures by digest and day
  def stored_on(days)
    same_source.where(date: days).joins(:combination).group("combinations.digest", :date)
      .pluck("combinations.digest", :date, *MEASURES.map { |name| Arel.sql("SUM(traffic_rows.#{name})") })
      .to_h { |digest, day, *figures| [[digest, day], figures] }
  end

  def overlap(before, sums)
    return [] if before.empty?

    before = before.slice(*sums.keys.map { |combination, day| [combination.digest, day] }) if @source.empty?
    return [] if before.empty?

    others = sums.count do |(combination, day), figures|
      before.key?([combination.digest, day]) && before[[combination.digest, day]] != figures
    end
    here = sums.keys.to_h { |combination, day| [[combination.digest, day], true] }
    gone = before.keys.count { |key| !here.key?(key) }
    ["#{Orvant::Words.counted(before.values.size, "row")} of these days #{(before.size == 1) ? "is" : "are"} there already and will be replaced: #{others} with other figures, #{gone} that this file does not hold."]
  end

  # What was brought beside what it has replaced, in the database.
  def compare
    return {new: @kept.to_i, same: 0, changed: 0, gone: 0} unless came_before?

    fresh = sums_of(TrafficRow.where(import_id: @import.id))
    before = sums_of(ReplacedRow.where(replaced_by_id: @import.id))
    same = "fresh.combination_id = before.combination_id AND fresh.date = before.date"
    both = ->(sql) { TrafficRow.connection.select_value("SELECT COUNT(*) FROM (#{fresh.to_sql}) AS fresh #{sql}").to_i }
    joined = "JOIN (#{before.to_sql}) AS before ON #{same}"
    total, met = both.call(""), both.call(joined)
    replaced = TrafficRow.connection.select_value("SELECT COUNT(*) FROM (#{before.to_sql}) AS before").to_i
    alike = MEASURES.map { |name| "fresh.#{name} = before.#{name}" }.join(" AND ")
    {
      new: total - met,
      same: met,
      changed: met - both.call("#{joined} WHERE #{alike}"),
      gone: replaced - met
    }
  end

  def sums_of(rows)
    rows.group(:combination_id, :date)
      .select(:combination_id, :date, *MEASURES.map { |name| "SUM(#{name}) AS #{name}" })
  end

  def notes(compared)
    [("#{Orvant::Words.counted(compared[:changed], "row was", "rows were")} there with other figures: the new ones hold." if compared[:changed].positive?),
      ("#{Orvant::Words.counted(compared[:gone], "row")} that #{(compared[:gone] == 1) ? "was" : "were"} there for these days #{(compared[:gone] == 1) ? "is" : "are"} not in this file and #{(compared[:gone] == 1) ? "is" : "are"} gone: take the import back to have #{(compared[:gone] == 1) ? "it" : "them"} again." if compared[:gone].positive?)].compact
  end

  def document(row)
    row.visit.except("click").merge("click_identifier" => row.click,
      "line" => row.line,
      "date" => row.date.iso8601,
      "sessions" => row.sessions,
      "conversions" => row.conversions, "revenue" => row.revenue)
  end
end
