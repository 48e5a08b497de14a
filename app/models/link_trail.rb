# frozen_string_literal: true

# The trail of one link in one sweep.
class LinkTrail < ActiveRecord::Base
  belongs_to :sweep
  belongs_to :link

  # @return [Hash{String => Object}] in the shape of the command line
  def as_document
    {"address" => link.address, "outcome" => outcome, "final_address" => final_address, "status" => status,
     "reason" => reason, "engine" => engine, "hops" => hops, "sweep_id" => sweep_id, "followed_at" => created_at.iso8601}
  end
end
