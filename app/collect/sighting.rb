# frozen_string_literal: true

# One place where a link was found.
class Sighting < ActiveRecord::Base
  belongs_to :workspace
  belongs_to :link
  belongs_to :import, optional: true

  scope :live, -> { where(ended_by_id: nil) }

  # What is stored of a sighting that judging depends on.
  JUDGED = %w[kind place owner status since key page declared target facts samples].freeze

  # @param link_ids [Array<Integer>]
  # @return [Hash{Integer => Hash}] by link, what stands in its address only as an example
  #   (Orvant::Inventory::Samples)
  def self.samples_of(link_ids)
    Database.among(live, link_ids, :link_id).where(kind: "ad").pluck(:link_id, :samples)
      .select { |_, samples| samples.present? }.to_h
  end

  # The one way from what is stored to what is judged.
  #
  # @param facts [Hash{String => Object}] of JUDGED
  # @return [Orvant::Inventory::Sighting]
  def self.core(facts)
    addresses = facts.slice("page", "declared", "target")
      .transform_values { |text| text && Orvant::Address.new(text) }
    Orvant::Inventory::Sighting.new(**facts.merge(addresses).transform_keys(&:to_sym))
  end

  # @return [Orvant::Inventory::Sighting]
  def core = self.class.core(JUDGED.to_h { |name| [name, self[name]] })

  # @return [Orvant::Inventory::Sighting] with its address and what its click would open
  def with_click
    core.tap do |sighting|
      sighting.address = Orvant::Address.new(link.address)
      sighting.click = click
    end
  end

  # @param convention [Orvant::Convention]
  # @param levels [Array<Hash>] of its ad; those that were imported unless others are to be tried
  # @return [Orvant::Inventory::ClickAddress, nil] what a click on it opens; nil where too little is known.
  #   Sightings of earlier versions kept no row of their own: their facts tell it.
  def click_address(convention, levels: click.to_h["levels"].to_a)
    said = click.to_h
    dialect = convention.dialect(said["network"] || facts.to_h["network"])
    return if levels.empty? || dialect.nil?

    Orvant::Inventory::ClickAddress.new(
      Orvant::Inventory::Level.of_documents(levels),
      dialect,
      values: said["values"].to_h,
      row: said["row"] || facts.to_h.slice(*Orvant::Convention::Dialect::TOLD)
    )
  end

  # @return [Hash{String => Object}]
  def as_document
    attributes.slice(
      "kind",
      "place",
      "owner",
      "spend",
      "status",
      "clicks",
      "conversions",
      "declared",
      "click",
      "text",
      "part",
      "page",
      "target",
      "facts",
      "samples"
    )
      .merge("since" => since&.iso8601, "import_id" => import_id, "ended" => !ended_by_id.nil?)
  end

  # @return [Orvant::Fix::Seen]
  def seen = Orvant::Fix::Seen.new(kind: kind, place: place, owner: owner)
end
