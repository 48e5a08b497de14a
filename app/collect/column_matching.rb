# frozen_string_literal: true

# What a person has said of a kind of file once, kept by name for the next file with the same columns: which
# column holds which field, and what they said beside it (its source, network, owner, place).
class ColumnMatching < ActiveRecord::Base
  belongs_to :workspace

  # @param workspace [Workspace]
  # @param kind [String]
  # @return [Proc] gives the matching kept for a file with the same columns, {} where there is none
  def self.for(workspace, kind) = ->(header) { latest(workspace, kind, header)&.matching || {} }

  # @param header [Array<String>]
  # @return [ColumnMatching, nil] the last that was kept for these columns
  def self.latest(workspace, kind, header)
    if header.any?
      where(workspace: workspace, kind: kind).order(updated_at: :desc).find { |one| one.header == header }
    end
  end
end
