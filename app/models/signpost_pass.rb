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
    days = rows.group(:signpost_id, Arel.sql("date(at)")).having("COUNT(*) > 1").pluck(:signpost_id, Arel.sql("date(at)"))
    days.sum { |signpost, day| fold_day(where(signpost_id: signpost, at: day.to_date.all_day)) }
  end

  def self.fold_day(rows)
    transaction do
      sums = rows.group(*ALIKE).sum(:times)
      before = rows.count
      at = rows.minimum(:at).beginning_of_day
      rows.delete_all
      insert_all(sums.map { |alike, times| ALIKE.zip(alike).to_h.merge(at: at, times: times) })
      before - sums.size
    end
  end
  private_class_method :fold_day
end
