# frozen_string_literal: true

# A rehearsal as a workspace keeps it.
class RehearsalScript < ActiveRecord::Base
  belongs_to :workspace
  has_many :rehearsal_runs, dependent: :delete_all

  # @return [Orvant::Rehearsal] with the addresses of the links that it opens
  def rehearsal
    @rehearsal ||= Orvant::Rehearsal.new(document).then do |read|
      if read.links.empty?
        read
      else
        read.with_links(workspace.links.live.where(id: read.links).pluck(:id, :address).to_h)
      end
    end
  end

  # @return [RehearsalRun, nil]
  def last_run = rehearsal_runs.order(:id).last
end
