# frozen_string_literal: true

# One passing of a signpost, or, of days long ago, all of a day that are alike: `times` says how many.
class SignpostPass < ActiveRecord::Base
  # What the passes of a day differ in, once nobody asks for the minute any more.
  ALIKE = %i[signpost_id referrer device bot repeat].freeze

  belongs_to :signpost

  # Makes one row a day of those that are alike.
  #
  # @param rows [ActiveRecord::Relation<SignpostPass>]
  # @return [Integer] rows that are gone
  def self.fold(rows)
    day = Arel.sql("date(at)")
    alike = rows.group(day, *ALIKE).having("COUNT(*) > 1").pluck(:signpost_id, day)
    alike.uniq.sum { |signpost, date| fold_day(signpost, Time.utc(*date.to_s.split("-").map(&:to_i))) }
  end

  # Days are those of UTC, in which moments are stored, wherever Orvant runs.
  def self.fold_day(signpost, from)
    rows = where(signpost_id: signpost, at: from...(from + 86_400))
    transaction do
      sums = rows.group(*ALIKE).sum(:times)
      before = rows.count
      rows.delete_all
      insert_all(sums.map { |alike, times| ALIKE.zip(alike).to_h.merge(at: from, times: times) })
      before - sums.size
    end
  end
  private_class_method :fold_day
end
