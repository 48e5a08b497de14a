# frozen_string_literal: true

# One file that was read: what it added, what was there already, and the rows that were rejected, with their reasons.
class Import < ActiveRecord::Base
  belongs_to :workspace
  has_many :sightings
  has_many :traffic_rows

  # @return [Integer]
  def rejected_count = rejected.size

  # @return [Hash{String => Object}]
  def as_document
    {"id" => id, "kind" => kind, "filename" => filename, "added" => added, "already" => already,
     "rejected" => rejected, "notes" => notes, "created_at" => created_at.iso8601}
  end
end
