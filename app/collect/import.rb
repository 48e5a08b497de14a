# frozen_string_literal: true

# One file that was read: what it added, what was there already, and the rows that were rejected, with their
# reasons.
class Import < ActiveRecord::Base
  ACTIVE = %w[waiting running stopping].freeze

  include Authored

  scope :active, -> { where(state: ACTIVE) }

  belongs_to :workspace
  has_many :sightings
  has_many :traffic_rows
  has_many :entries, class_name: "ImportEntry"
  has_many :site_pages

  # Counts rows that have been dealt with. What a worker that was ended had added stays added.
  #
  # @param rows [Integer]
  # @param more [Integer] that were not there before
  def progress(rows, more) = update_columns(done: done + rows, added: added + more, updated_at: Time.now.utc)

  # Hands it to the worker.
  def queue
    Queues.put(ImportJob.new(id), Fetching::KINDS.include?(kind) ? Queues::OUTSIDE : Queues::INSIDE)
  end

  # Asks the worker to end.
  def stop = self.class.where(id: id, state: %w[waiting running]).update_all(state: "stopping")

  # @return [Boolean] whether a person has asked for the end, as stored now
  def stopping? = self.class.where(id: id).pick(:state) == "stopping"

  # @return [Boolean] whether fixes and traffic are in step with what it brought
  def explained?
    !ACTIVE.include?(state) && !workspace.explained_at.nil? && workspace.explained_at >= updated_at
  end

  # @return [Integer]
  def rejected_count = rejected.size

  # @return [Hash{String => Object}]
  def as_document
    {"id" => id,
     "kind" => kind,
     "filename" => filename,
     "source" => source,
     "state" => state,
     "done" => done,
     "total" => total,
     "problem" => problem,
     "added" => added,
     "already" => already,
     "ended" => ended,
     "rejected" => rejected,
     "notes" => notes,
     "apart" => apart,
     "changes" => differences,
     "pages" => site_pages.count, "explained" => explained?, "created_at" => created_at.iso8601}
  end
end
