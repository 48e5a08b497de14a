# frozen_string_literal: true

# Reads the ads at hand anew from what was imported (landing address, click pattern, tail, own tokens), by
# the rules as they are now: an ad whose click opens another address than before stands at another link from
# then on.
class AdRereading
  BATCH = 100

  class << self
    # Has the worker do it.
    #
    # @param workspace [Workspace]
    # @return [void]
    def later(workspace)
      workspace.update_columns(rereading: true)
      Queues.put_once(RereadJob.new(workspace.id))
    end

    # @param workspace [Workspace]
    # @return [Boolean] whether a worker is to do it, or is at it
    def under_way?(workspace)
      Workspace.where(id: workspace.id, rereading: true).exists?
    end
  end

  # @param workspace [Workspace]
  # @param convention [Orvant::Convention] the rules by which they are read
  def initialize(workspace, convention = workspace.convention)
    @workspace = workspace
    @convention = convention
  end

  # @return [Integer] how many ads stand at another link now
  def call
    ads.find_in_batches(batch_size: BATCH).sum do |some|
      changed = some.filter_map { |sighting| reading(sighting) }
      ActiveRecord::Base.transaction { keep(changed) } if changed.any?
      changed.count(&:moved?)
    end
  end

  # @return [Integer] how many would stand at another link; nothing is changed
  def count = ads.find_each.count { |sighting| reading(sighting)&.moved? }

  private

  # An ad as it is read now. click: Orvant::Inventory::ClickAddress · address: Orvant::Address
  Reading = Struct.new(:sighting, :click, :address, keyword_init: true) do
    # @return [Boolean] whether it stands at another link
    def moved? = sighting.link.normal_form != address.normal_form
  end

  def ads
    @workspace.sightings.live.where(kind: "ad").where.not(click: nil).includes(:link)
  end

  # @return [Reading, nil] nil where all is as it was, and where too little is known to read it anew
  def reading(sighting)
    click = sighting.click_address(@convention) or return
    address = Orvant::Address.parse(click.after(@convention.billed_hosts))
    one = Reading.new(sighting: sighting, click: click, address: address)
    one if one.moved? || click.to_h != sighting.click
  rescue Orvant::Error::UnusableAddress
    nil # By these rules there is no address; it stays as it was imported.
  end

  def keep(readings)
    ClickHost.insertion(@workspace.id, readings.map { |one| core(one) }, Time.now.utc).call
    before = readings.map { |one| one.sighting.link_id }
    after = readings.map { |one| keep_one(one) }
    Link.repeat_sightings(after.uniq)
    Link.refresh_provenance((before - after).uniq)
  end

  def core(reading)
    reading.sighting.core.tap do |sighting|
      sighting.address = reading.address
      sighting.click = reading.click.to_h
    end
  end

  # @return [Integer] the link at which it stands
  def keep_one(reading)
    sighting = reading.sighting
    link = reading.moved? ? link_of(reading) : sighting.link
    sighting.update!(
      link: link,
      click: reading.click.to_h,
      samples: reading.click.samples(@convention.billed_hosts),
      identity: identity(reading)
    )
    link.id
  end

  # What a person has said of the link before holds for the one that takes its place.
  def link_of(reading)
    before = reading.sighting.link
    link = @workspace.links.find_or_initialize_by(normal_form: reading.address.normal_form)
    if link.new_record?
      link.assign_attributes(before.slice(:kind, :place, :owner, :spend, :excluded_at, :assigned_owner))
      link.update!(address: reading.address.raw, host: reading.address.host)
      before.labels.each { |one|
        LinkLabel.create!(workspace_id: @workspace.id, link: link, label: one.label)
      }
    end
    link.update!(retired_at: nil, replaced_by_id: nil) if link.retired_at
    link
  end

  # By which the source's next reading finds it again; where another ad has it, this one keeps its own.
  def identity(reading)
    sighting = reading.sighting
    identity = Importing.digest(core(reading).identity)
    return identity if identity == sighting.identity

    other = @workspace.sightings.find_by(identity: identity)
    return sighting.identity if other && other.ended_by_id.nil?

    other&.destroy!
    identity
  end
end
