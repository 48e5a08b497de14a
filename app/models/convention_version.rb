# frozen_string_literal: true

# One version of a workspace's convention. What an earlier version judged stays as it was.
class ConventionVersion < ActiveRecord::Base
  belongs_to :workspace

  # @return [Orvant::Convention]
  def convention = @convention ||= Orvant::Convention.new(document)
end
