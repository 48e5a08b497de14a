# frozen_string_literal: true

require "erb"
require "json"
require "rack"
require_relative "world/page"
Dir[File.join(__dir__, "world", "*.rb")].sort.each { |file| require file }

# The demo's outside world: one small server that plays every host the ferry line's links lead over. Which
# host is meant stands in the Host header, as for any server; Orvant reaches it by the workspace's host map.
class World
  NOT_HERE = [404, {"content-type" => "text/plain"}, ["No such host in this world.\n"]].freeze

  # @param faults [World::Faults]
  # @param signposts [#call, nil] serves what the short-link service does not know: the signposts stand on its
  #   host
  def initialize(faults, signposts: nil)
    @counts = Hash.new(0)
    @lock = Mutex.new
    site = Site.new(faults)
    @hosts = {
      "www.skerryline.example" => site, "skerryline.example" => BareHost.new(faults),
      "booking.skerryline.example" => Booking.new(faults),
      "pay.coinquay.example" => Payment.new, "skl.example" => ShortLinks.new(faults, signposts),
      "click.lanternfind.example" => SearchClicks.new,
      "out.tidepost.example" => OutLinks.new, "track.pigeonry.example" => MailClicks.new,
      "www.isleguide.example" => Partner.new,
      "cdn.gullwatch.example" => AnalyticsScript.new, "in.gullwatch.example" => Collection.new,
      "js.tidegauge.example" => WatcherScript.new, "eye.tidegauge.example" => Collection.new,
      "tag.beaconbay.example" => AdScript.new, "px.beaconbay.example" => Collection.new,
      "js.foghorn.example" => FoghornScript.new,
      "in.foghorn.example" => Collection.new,
      "shop.skerryline.example" => Shop.new(faults),
      "go.brightbuoy.example" => SearchClicks.new,
      "go.breezehop.example" => Breezehop.new,
      "archive.skerryline.example" => Archive.new,
      "www.parkednames.example" => Parked.new, "go.ferryfinder.example" => SearchClicks.new,
      "api.tidepost.example" => NetworkApi.new(
        "/ads" => data("tidepost_today.json"),
        "/ads/yesterday" => data("tidepost_yesterday.json")
      ),
      **Secure::HOSTS.to_h { |host| [host, site] }
    }
    @control = Control.new(faults, method(:counts))
  end

  # @param env [Hash] a Rack environment
  # @return [Array] a Rack response
  def call(env)
    request = Rack::Request.new(env)
    return @control.call(request) if %w[127.0.0.1 localhost].include?(request.host)

    @lock.synchronize { @counts[request.host] += 1 }
    handler = @hosts[request.host]
    handler ? handler.call(request) : NOT_HERE
  end

  # @return [Hash{String => Integer}] requests so far, by host; hosts that were never asked stand there with 0
  def counts
    @lock.synchronize { @hosts.keys.to_h { |host| [host, @counts[host]] } }
  end

  private

  def data(name) = File.join(__dir__, "data", name)
end
