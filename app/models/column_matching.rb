# frozen_string_literal: true

# Which column holds which field of a kind of file, as a person has matched them once, kept by name for the next file.
class ColumnMatching < ActiveRecord::Base
  belongs_to :workspace

  # @param workspace [Workspace]
  # @param kind [String]
  # @return [Proc] gives the matching kept for a file with the same columns, {} where there is none
  def self.for(workspace, kind)
    ->(header) { where(workspace: workspace, kind: kind).find { |one| one.header == header }&.matching || {} }
  end
end
