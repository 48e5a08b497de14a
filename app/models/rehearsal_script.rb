# frozen_string_literal: true

# A rehearsal as a workspace keeps it.
class RehearsalScript < ActiveRecord::Base
  belongs_to :workspace
  has_many :rehearsal_runs

  # @return [Orvant::Rehearsal]
  def rehearsal = @rehearsal ||= Orvant::Rehearsal.new(document)

  # @return [RehearsalRun, nil]
  def last_run = rehearsal_runs.order(:id).last
end
