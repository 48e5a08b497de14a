# frozen_string_literal: true

# A value that somebody needs and the convention does not have yet; its owner takes it up or declines it.
class ProposedValue < ActiveRecord::Base
  STATES = %w[open taken declined].freeze

  belongs_to :workspace

  # @return [Hash{String => Object}]
  def as_document
    owner = workspace.convention.role(role)&.owner.to_s
    {
      "id" => id,
      "role" => role,
      "value" => value,
      "reason" => reason,
      "author" => author,
      "state" => state,
      "owner" => owner,
      "created_at" => created_at.iso8601
    }
  end
end
