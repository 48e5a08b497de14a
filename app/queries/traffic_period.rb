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

  # @return [Date, nil]
  def self.day(text)
    Date.iso8601(text) unless text.to_s.empty?
  rescue ArgumentError
    raise Orvant::Error, "“#{text[0, Orvant::Cut::WORD]}” is no day; write it as 2026-11-25."
  end
  private_class_method :day
end
