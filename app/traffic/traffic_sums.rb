# frozen_string_literal: true

# What a table of traffic adds up: the smallest sums that can tell what is asked, else the rows themselves.
class TrafficSums
  # rows: that hold figures · figures: the table in which these stand · columns: where another column of a
  # dimension stands · sign: 1, or -1 where they are to be taken off
  Part = Struct.new(:rows, :figures, :columns, :sign, keyword_init: true) do
    # @param columns [Array<String>] of dimensions
    # @param measures [Array<String>]
    # @param kept [Hash{String => Array}] by column, the values that are told apart; all others are nil
    # @return [Array<Array(Array, Array<Integer>)>] a value of each column; how many rows there are, and the
    #   sum of each measure
    def grouped(columns, measures, kept)
      by = columns.uniq.map { |column| apart(self.columns.fetch(column, column), kept[column]) }
      sums = [counted, *measures.map { |name| "#{sign} * SUM(#{figures}.#{name})" }]
      places = columns.map { |column| columns.uniq.index(column) }
      rows.connection.select_rows(rows.group(*by).select(*by, *sums).to_sql)
        .map { |cells| [cells.values_at(*places), cells.last(sums.size).map(&:to_i)] }
    end

    private

    def apart(column, values)
      return column unless values

      said = values.map { |value| rows.connection.quote(value) }.join(", ")
      "CASE WHEN #{column} IN (#{said}) THEN #{column} END"
    end

    # Rows are counted; sums say of how many rows they are, but for those over all days, which are of some.
    def counted
      return "1" if figures == "combinations"

      (figures == "traffic_rows") ? "#{sign} * COUNT(*)" : "SUM(#{figures}.row_count)"
    end
  end

  DAY, CAUSE = TrafficDimension::DAY, TrafficDimension::CAUSE
  FIELDS = Combination::FIELDS.to_h { |name| ["combinations.#{name}", name] }.freeze
  # What stands in sums by day, and where.
  DAY_SUMS = {
    "combinations.channel" => "traffic_days.channel",
    DAY => "traffic_days.date",
    CAUSE => CAUSE
  }.freeze
  # Where the stretches of days stand in sums by day and value.
  TIMES = {"day" => "value_days.date", "week" => "value_days.week", "month" => "value_days.month"}.freeze

  # @param workspace [Workspace]
  # @param filters [Hash{String => String}] as TrafficFilters takes them
  # @param dimensions [Array<TrafficDimension>]
  # @param own [Boolean] whether the own dimensions are told beside, as text
  def initialize(workspace, filters, dimensions, own: false)
    @workspace = workspace
    @asked = TrafficFilters.new(workspace, filters)
    @dimensions = dimensions
    @own = own
  end

  # @param period [Range<Date>, nil] nil for all days
  # @param measures [Array<String>]
  # @param kept [Hash{String => Array}] by column, the values that are told apart; all others are nil
  # @return [Array<Array(Array, Array<Integer>)>] what each dimension's column holds, a day of the stretch
  #   where it is one, then the own dimensions; and the sum of each measure
  def grouped(period, measures = Combination::MEASURES, kept: {})
    groups = parts(period).map { |part| part.grouped(columns, measures, kept) }
    groups = (groups.size == 1) ? groups.first : together(groups)
    groups.map { |values, (_count, *sums)| [values, sums] }
  end

  private

  def parts(period)
    return [day_sums(period)] if in_day_sums?
    return [value_sums(period)] if in_value_sums?(period)
    return [rows(period)] if @dimensions.any? { |one| one.time? && !one.month? }

    apart = cause? ? explained_apart(period) : []
    [combinations(period, counted: apart.any?), *apart]
  end

  # Where all that was added has been taken off again, there is nothing.
  def together(groups)
    groups.flatten(1).group_by(&:first)
      .map { |values, same| [values, same.map(&:last).transpose.map(&:sum)] }
      .select { |_, (count)| count.positive? }
  end

  def columns = @columns ||= [*@dimensions.map(&:column), *(TrafficDimension::OWN_TEXT if @own)]

  # What is asked for of the fields of visits, and what they are narrowed by.
  def fields = @fields ||= (FIELDS.values_at(*columns).compact + @asked.fields.keys).uniq

  def time = @time ||= @dimensions.find(&:time?)

  def cause? = columns.include?(CAUSE) || @asked.cause?

  def in_day_sums?
    (time || cause?) && (columns - DAY_SUMS.keys).empty? && !@asked.narrowed?
  end

  # Over all days and by nothing else the sums of combinations are as few.
  def in_value_sums?(period)
    (time || period) && fields.one? && (columns - [DAY, *FIELDS.keys]).empty? &&
      @dimensions.count(&:time?) < 2 && !@asked.narrowed_beside? && !@asked.cause? && !@asked.channel &&
      ValueDay.told?(@workspace, period)
  end

  def day_sums(period)
    days = @workspace.traffic_days.left_joins(:explanation).where(@asked.causes)
    days = days.where(channel: @asked.channel) if @asked.channel
    Part.new(rows: within(days, period), figures: "traffic_days", columns: DAY_SUMS, sign: 1)
  end

  def value_sums(period)
    days = ValueDay.where(workspace: @workspace, dimension: fields.first)
    days = days.where(value: @asked.fields.values) if @asked.fields.any?
    columns = {"combinations.#{fields.first}" => "value_days.value", DAY => TIMES[time&.name]}
    Part.new(rows: within(days, period), figures: "value_days", columns: columns, sign: 1)
  end

  def combinations(period, counted:)
    rows, figures =
      if time || counted
        Combination.of_months(@workspace, period, time ? ["month"] : [])
      else
        Combination.summed(@workspace, period)
      end
    rows = rows.left_joins(:explanation).where(@asked.causes) if cause?
    Part.new(rows: narrowed(rows), figures: figures, columns: {DAY => "of_days.month"}, sign: 1)
  end

  def rows(period)
    rows = @workspace.traffic_rows.told.where(@asked.causes)
    Part.new(rows: narrowed(within(rows, period)), figures: "traffic_rows", columns: {}, sign: 1)
  end

  # Days that are explained otherwise than their combination are few: they are taken off there, and put where
  # they belong.
  #
  # @return [Array<Part>]
  def explained_apart(period)
    rows = within(@workspace.traffic_rows.where.not(explanation_id: nil), period)
    return [] if rows.none?

    {"combinations" => -1, "traffic_rows" => 1}.map do |said, sign|
      told = rows.joins(:combination)
        .joins("LEFT JOIN explanations ON explanations.id = #{said}.explanation_id").where(@asked.causes)
      Part.new(rows: narrowed(told), figures: "traffic_rows", columns: {DAY => Database.month_of(DAY)}, sign: sign)
    end
  end

  def within(rows, period) = period ? rows.where(date: period) : rows

  def narrowed(rows)
    rows = rows.where(combinations: {channel: @asked.channel}) if @asked.channel
    rows.merge(@asked.combinations)
  end
end
