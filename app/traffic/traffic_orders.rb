# frozen_string_literal: true

# Orders with the visits before them, and where credit moves between the first, the last and the last that was
# not direct. No model is called right.
class TrafficOrders
  # Visitors whose touches are read in one statement.
  BATCH = 500
  MOST = 500
  DIRECT = Orvant::Convention::ChannelRules::DIRECT
  # Days and touches that are told apart; what is more stands in the last.
  MOST_DAYS = 30
  MOST_TOUCHES = 10
  # An order with its touches in order of time.
  Way = Struct.new(:order, :touches, keyword_init: true) do
    def first = touches.first

    def last = touches.last

    def last_known = touches.reverse.find { |touch| touch[:channel] != DIRECT } || touches.last
  end

  # @param workspace [Workspace]
  # @param period [Range<Date>, nil]
  # @param search [String] part of an order's number
  def initialize(workspace, period = nil, search: "")
    @workspace = workspace
    @orders = workspace.orders
    @orders = @orders.where(at: period.begin&.beginning_of_day..period.end&.end_of_day) if period
    unless search.to_s.empty?
      @orders = @orders.where("order_number LIKE ?", "%#{Order.sanitize_sql_like(search)}%")
    end
  end

  # @return [Hash{String => Object}]
  def document
    touched = ways.reject { |way| way.touches.empty? }
    {"total" => ways.size,
     "value" => ways.sum { |way| way.order.value },
     "untouched" => ways.size - touched.size,
     "orders" => ways.last(MOST).reverse.map { |way| row(way) },
     "matrix" => matrix(touched),
     "touches" => histogram(touched.map { |way| way.touches.size }, MOST_TOUCHES),
     "days" => histogram(touched.map { |way| days(way).to_i }, MOST_DAYS)}
  end

  # @param number [String]
  # @return [Hash{String => Object}]
  # @raise [ActiveRecord::RecordNotFound]
  def one(number)
    order = @workspace.orders.find_by!(order_number: number)
    way = ways_of([order]).first
    {"number" => order.order_number,
     "at" => order.at.iso8601,
     "value" => order.value,
     "currency" => order.currency,
     "source" => order.source,
     "coupon" => order.coupon,
     "days" => days(way)&.to_i,
     "touches" => way.touches.map { |touch|
       touch.except(:at).transform_keys(&:to_s)
         .merge("at" => touch[:at].iso8601, "days_before" => ((order.at - touch[:at]) / 86_400.0).round(1))
     },
     "claims" => claimants(way)}
  end

  # @return [Hash{Array(String, String) => Array(Integer, Integer)}] orders and their value by source and
  #   campaign
  def by_campaign
    @by_campaign ||= ways.group_by { |way| campaign(way) }
      .reject { |(_, name), _| name.empty? }
      .transform_values { |same| [same.size, same.sum { |way| way.order.value }] }
  end

  # @return [Array<Way>] orders that campaigns of two networks stand before, each of which claims on that day
  def both = ways.select { |way| claimants(way).size > 1 }

  # @return [Array<Way>] orders without any touch, source or coupon
  def nobody = ways.select { |way| way.touches.empty? && way.order.source.empty? && way.order.coupon.empty? }

  # @return [Array<String>] campaigns whose orders others claim too
  def shared
    both.flat_map { |way| way.touches.map { |touch| touch[:campaign].downcase } }.uniq.reject(&:empty?)
  end

  private

  def ways = @ways ||= ways_of(@orders.order(:at, :id).to_a)

  def ways_of(orders)
    visitors = orders.map(&:visitor).uniq - [""]
    touches = visitors.each_slice(BATCH).flat_map { |some|
      @workspace.touches.where(visitor: some).order(:at, :id)
        .pluck(:visitor, :at, *Touch::FIELDS)
    }.group_by(&:first)
    orders.map do |order|
      Way.new(
        order: order,
        touches: touches.fetch(order.visitor, [])
          .select { |_, at, *| at <= order.at }
          .map { |_, at, *values| touch(at, values) }
      )
    end
  end

  def touch(at, values)
    visit = Touch::FIELDS.map(&:to_s).zip(values).to_h
    {at: at, channel: rules.classify(visit).channel, **visit.transform_keys(&:to_sym)}
  end

  def rules = @rules ||= @workspace.convention.channel_rules

  def days(way) = way.first && (way.order.at - way.first[:at]) / 86_400

  def row(way)
    {"number" => way.order.order_number,
     "at" => way.order.at.iso8601,
     "value" => way.order.value,
     "touches" => way.touches.size,
     "first" => way.first ? way.first[:channel] : "",
     "last" => way.last ? way.last[:channel] : "",
     "last_known" => way.last_known ? way.last_known[:channel] : ""}
  end

  def matrix(touched)
    sides = %i[first last last_known].to_h do |side|
      [side, touched.group_by { |way| way.public_send(side)[:channel] }]
    end
    sides.values.flat_map(&:keys).uniq.sort.map do |channel|
      sides.each_with_object({"channel" => channel}) do |(side, by_channel), sums|
        same = by_channel.fetch(channel, [])
        sums[side.to_s] = same.size
        sums["#{side}_value"] = same.sum { |way| way.order.value }
      end
    end
  end

  def histogram(numbers, most)
    numbers.map { |number| [number, most].min }.tally
      .then { |counts| counts.empty? ? [] : (0..counts.keys.max).map { |number| counts.fetch(number, 0) } }
  end

  def campaign(way)
    named = way.touches.reverse.find { |touch| !touch[:campaign].empty? }
    (named ? named.values_at(:source, :campaign) : [way.order.source, way.order.coupon])
  end

  # Networks that claim conversions on the day of the order for a campaign that stands before it.
  def claimants(way)
    seen = way.touches.reject { |touch| touch[:campaign].empty? }
      .map { |touch| touch.values_at(:source, :campaign).map(&:downcase) }
    return [] if seen.empty?

    claims_on(way.order.at.to_date).select { |_, names| seen.include?(names) }.map(&:first).uniq
  end

  def claims_on(day)
    (@claims ||= @workspace.claims.where("claimed > 0")
      .pluck(:date, :network, :campaign).group_by(&:first)).fetch(day, []).map do |_, network, campaign|
      [network, named(network, campaign)]
    end
  end

  def named(network, campaign)
    (@named ||= TrafficClaims.new(@workspace).names).fetch(
      [network.downcase, campaign.downcase],
      [network, campaign]
    )
      .map { |name| name.to_s.downcase }
  end
end
