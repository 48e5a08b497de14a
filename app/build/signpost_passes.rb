# frozen_string_literal: true

# Who has come by one signpost: by day, device and referrer, bots apart, and the last of them.
class SignpostPasses
  # The last that are shown, and the referrers that most came from.
  MOST_LAST = 100
  MOST_REFERRERS = 20
  # Days that are counted one by one.
  DAYS = 30

  # @param signpost [Signpost]
  def initialize(signpost)
    @passes = signpost.passes
    @people = @passes.where(bot: false)
  end

  # @return [Hash{String => Object}] by_day, by_device, by_referrer, last
  def document
    {"by_day" => by_day, "by_device" => @people.group(:device).sum(:times),
     "by_referrer" => @people.group(:referrer).order(Arel.sql("SUM(times) DESC")).limit(MOST_REFERRERS).sum(:times),
     "last" => last}
  end

  private

  def by_day
    days = @people.where("at >= ?", DAYS.days.ago).group("date(at)").order("date(at)").sum(:times)
    days.map { |day, count| {"day" => day, "passes" => count} }
  end

  # Passes that were added up by the day have no time of their own any more.
  def last
    @passes.where(times: 1).order(at: :desc, id: :desc).limit(MOST_LAST).map do |pass|
      {"at" => pass.at.iso8601, **pass.attributes.slice("referrer", "device", "bot", "repeat")}
    end
  end
end
