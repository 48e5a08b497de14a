# frozen_string_literal: true

# Says before a sweep begins how far it will reach.
class SweepReach
  # Seconds that a link and a page take where no sweep has told yet.
  LINK = 0.02
  PAGE = 2.8

  # @param workspace [Workspace]
  # @param visitors [Integer]
  # @param paused [Boolean] whether paused ads are followed too
  def initialize(workspace, visitors: 1, paused: false)
    @workspace = workspace
    @visitors = visitors
    @links = paused ? workspace.links.swept : workspace.links.swept.where(status: "")
  end

  # @return [Hash{String => Object}] links, hosts, seconds; billed: links on hosts that charge for a click, which are never requested
  def document
    hosts = @links.group(:host).count
    billed = hosts.select { |host, _| @workspace.convention.billed_hosts.cover?(host) }
    {"links" => hosts.values.sum, "hosts" => hosts.size, "billed" => billed.values.sum, "billed_hosts" => billed.keys,
     "paused" => @workspace.links.swept.where(status: "paused").count, "excluded" => @workspace.links.live.where.not(excluded_at: nil).count,
     "seconds" => seconds(hosts)}
  end

  private

  # The busiest host decides, since each is asked for only so much at once.
  def seconds(hosts)
    limits = @workspace.limits
    busiest = hosts.values.max.to_i * (LINK * 8 / limits.per_host + limits.pause)
    pages = @workspace.page_visits.distinct.count(:page)
    ([hosts.values.sum * LINK, busiest].max * @visitors + pages * PAGE / Settings["ORVANT_TABS"].to_i).ceil
  end
end
