# frozen_string_literal: true

# One place where a link was found.
class Sighting < ActiveRecord::Base
  belongs_to :workspace
  belongs_to :link
  belongs_to :import, optional: true

  # @return [Orvant::Fix::Seen]
  def seen = Orvant::Fix::Seen.new(kind: kind, place: place, owner: owner)
end
