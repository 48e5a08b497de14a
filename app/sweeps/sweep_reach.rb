# frozen_string_literal: true

# Says before a sweep begins how far it will reach.
class SweepReach
  # Seconds that a link, a glance at a page, its visit and a rehearsal take where no sweep has told yet.
  LINK = 0.02
  GLANCE = 1.0
  PAGE = 3.0
  REHEARSAL = 8.0
  # So many links tell how many pages they lead to.
  SAMPLE = 5_000

  # @param workspace [Workspace]
  # @param visitors [Integer]
  # @param paused [Boolean] whether paused ads are followed too
  def initialize(workspace, visitors: 1, paused: false)
    @workspace = workspace
    @visitors = visitors
    @links = paused ? workspace.links.swept : workspace.links.swept.where(status: "")
  end

  # @return [Hash{String => Object}] links, hosts, seconds; billed: links on hosts that charge for a click,
  #   which are never requested; may_charge: hosts of which nobody has said whether they charge, which are not
  #   requested before
  def document
    hosts = @links.group(:host).count
    billed = hosts.select { |host, _| @workspace.convention.billed_hosts.cover?(host) }
    {"links" => hosts.values.sum,
     "hosts" => hosts.size,
     "billed" => billed.values.sum,
     "billed_hosts" => billed.keys,
     "may_charge" => ClickHost.documents(@workspace),
     "paused" => @workspace.links.swept.where(status: "paused").count,
     "excluded" => @workspace.links.live.where.not(excluded_at: nil).count,
     "seconds" => seconds(hosts)}
  end

  private

  # The last sweep of all tells best; where there is none, what will be done is reckoned.
  def seconds(hosts)
    links = hosts.values.sum
    last, reached = last_whole
    return (last * links / reached * @visitors).ceil.clamp(1..) if last && reached.positive?

    (following(links, hosts) * @visitors + in_browser).ceil.clamp(1..)
  end

  # @return [Array(Float, Integer), nil] seconds that the last whole sweep took, and its links
  def last_whole
    sweep = @workspace.sweeps.finished_whole.order(:id).last
    return unless sweep&.started_at

    [(sweep.finished_at - sweep.started_at) / sweep.visitors.size, sweep.link_trails.distinct.count(:link_id)]
  end

  # The busiest host decides, since each is asked for only so much at once.
  def following(links, hosts)
    limits = @workspace.limits
    [links * LINK, hosts.values.max.to_i * (LINK * 8 / limits.per_host + limits.pause)].max
  end

  def in_browser
    pages = [
      @workspace.page_visits.distinct.count(:page),
      @links.limit(SAMPLE).pluck(:address).uniq { |text| Orvant::Address.new(text).page }.size
    ].max
    (pages * (GLANCE + PAGE) + @workspace.rehearsal_scripts.count * REHEARSAL) / Settings["ORVANT_TABS"].to_i
  end
end
