# frozen_string_literal: true

# The days that are looked at, as the address bar names them.
module TrafficPeriod
  # @param filters [Hash{String => String}] `from` and `to`, either of which may be missing
  # @return [Range<Date>, nil] nil for all days
  # @raise [Orvant::Error] where they are no days, or the last stands before the first
  def self.of(filters)
    from, to = %w[from to].map { |name| day(filters[name]) }
    if from && to && to < from
      raise Orvant::Error, "The period ends on #{to.iso8601}, before it begins on #{from.iso8601}."
    end

    (from..to) if from || to
  end

  # @param filters [Hash{String => String}] of which `compare` says what stands beside: `before`, as many days
  #   before those of the period, or days that are named, 2026-08-24..2026-09-30
  # @return [Range<Date>, nil] nil where nothing does, or nothing can come before
  # @raise [Orvant::Error] where neither is said
  def self.beside(filters)
    asked = filters["compare"].to_s
    return if asked.empty?
    return of(%w[from to].zip(asked.split("..", 2)).to_h) if asked.include?("..")
    unless asked == "before"
      raise Orvant::Error, "Compare with “before”, or with days: 2026-08-24..2026-09-30."
    end

    period = of(filters)
    days_before(period) if period&.begin && period.end
  end

  # @return [Range<Date>] as many days, right before
  def self.days_before(period)
    (period.begin - (period.end - period.begin).to_i - 1)..(period.begin - 1)
  end
  private_class_method :days_before

  # @return [Date, nil]
  def self.day(text)
    Date.iso8601(text) unless text.to_s.empty?
  rescue ArgumentError
    raise Orvant::Error, "“#{text[0, Orvant::Cut::WORD]}” is no day; write it as 2026-11-25."
  end
  private_class_method :day
end
