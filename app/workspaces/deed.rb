# frozen_string_literal: true

# What was done in a workspace that no other row tells: settings with what they were before, people, keys.
class Deed < ActiveRecord::Base
  belongs_to :workspace

  # @param workspace [Workspace]
  # @param said [String] in words
  # @param facts [Hash] setting, before, after: where it can be taken back
  def self.note(workspace, said, **facts)
    create!(workspace: workspace, said: said, author: Acting.author, **facts)
  end
end
