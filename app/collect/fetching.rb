# frozen_string_literal: true

require "async"

# Collects links over the network: from an own site, from others' pages, or from a network's interface for
# ads.
class Fetching
  KINDS = %w[site pages network].freeze
  # Sitemaps are large; pages are read one after the other, so memory stays bounded.
  BODY = 20 * 1024 * 1024
  MOST = {"pages" => 5_000, "depth" => 10}.freeze

  # @param import [Import] with its options
  def initialize(import)
    @import = import
    @workspace = import.workspace
    @options = import.options
    @convention = @workspace.convention
  end

  # @return [Import] done, stopped or failed with its problem
  def call
    collected = Sync { send(@import.kind) }
    stopped = @import.stopping?
    collected.partial = true if stopped
    LinkImporting.new(
      @workspace,
      collected,
      filename: @import.filename,
      kind: @import.kind,
      source: @import.source,
      import: @import
    ).call
    @import.update!(state: "stopped") if stopped
    @import
  rescue Orvant::Error => error
    @import.update!(state: @import.stopping? ? "stopped" : "failed", problem: error.message)
    @import
  ensure
    # A key that was typed for one reading is not kept.
    @import.update!(options: @options.except("key")) if @options.key?("key")
  end

  private

  def door
    limits = @workspace.limits
    limits.body = BODY
    NetworkPolicy.new(@workspace).door(limits)
  end

  def progress
    lambda do |done, total|
      @import.update_columns(done: done, total: total)
      !@import.stopping?
    end
  end

  def site
    bounds = Orvant::Inventory::Site::Bounds.usual
    %w[pages depth].each do |name|
      bounds[name] = @options[name].to_i.clamp(0, MOST.fetch(name)) if @options[name]
    end
    Orvant::Inventory::Site.new(
      door,
      own: @convention.own_hosts,
      carriers: @convention.carriers,
      bounds: bounds,
      owner: @options["owner"].to_s,
      signatures: @workspace.tag_signatures,
      progress: progress
    )
      .crawl(Orvant::Address.parse(@options["address"]))
  end

  def pages
    hosts = Orvant::Hosts.new(@convention.own_hosts.names + @convention.relay_hosts.names)
    addresses = @options["addresses"].to_s.split.map { |text| Orvant::Address.parse(text) }
    Orvant::Inventory::ForeignPages.read(
      door,
      addresses,
      hosts: hosts,
      kind: @options.fetch("link_kind", "page"),
      owner: @options["owner"].to_s,
      progress: progress
    )
  end

  def network
    kept = @workspace.networks.find { |one| one["network"] == @options["network"] }
    network = kept.to_h.merge(@options.reject { |_, value| value.to_s.empty? })
    key = NetworkKey.for(kept, network["address"], @options["key"])
    json = Orvant::Inventory::NetworkAds.new(door, progress: progress)
      .fetch(Orvant::Address.parse(network["address"]), Secret.unseal(key.to_s))
    @import.update_columns(done: 0)
    Orvant::Inventory::Source.read(
      "ads",
      json,
      convention: @convention,
      network: network["network"],
      owner: network["owner"]
    )
  end
end
