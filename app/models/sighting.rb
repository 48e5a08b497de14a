# frozen_string_literal: true

# One place where a link was found.
class Sighting < ActiveRecord::Base
  belongs_to :workspace
  belongs_to :link
  belongs_to :import, optional: true

  scope :live, -> { where(ended_by_id: nil) }

  # @return [Orvant::Inventory::Sighting] what checks need of it
  def fact
    Orvant::Inventory::Sighting.new(kind: kind, place: place, page: web(page), declared: web(declared), target: web(target), status: status)
  end

  # @return [Hash{String => Object}]
  def as_document
    attributes.slice("kind", "place", "owner", "spend", "status", "clicks", "conversions", "declared", "click", "text", "part", "page", "target", "facts")
      .merge("since" => since&.iso8601, "import_id" => import_id, "ended" => !ended_by_id.nil?)
  end

  # @return [Orvant::Fix::Seen]
  def seen = Orvant::Fix::Seen.new(kind: kind, place: place, owner: owner)

  private

  def web(text) = text && Orvant::Address.new(text)
end
