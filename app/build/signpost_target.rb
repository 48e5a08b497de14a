# frozen_string_literal: true

# A target that a signpost had from some moment on.
class SignpostTarget < ActiveRecord::Base
  belongs_to :signpost

  # @return [Hash{String => Object}]
  def as_document = {"target" => target, "author" => author, "note" => note, "since" => created_at.iso8601}
end
