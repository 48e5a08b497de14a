# frozen_string_literal: true

# One bundle that is being made a workspace of, which nobody sees until it is whole.
class BundleImport < ActiveRecord::Base
  ACTIVE = %w[waiting running stopping].freeze
  # A bundle that has ended so many workers would end every other.
  MOST_TRIES = 3

  # Who will own the workspace; nobody where Orvant is one person's.
  belongs_to :person, optional: true
  belongs_to :workspace, optional: true

  # @param file [String] path of the bundle, which is taken away
  # @param person [Person, nil]
  # @param filename [String] as it was called
  # @return [BundleImport] waiting for the worker
  def self.begin!(file, person:, filename: "")
    transaction do
      create!(person: person, filename: filename).tap do |one|
        FileUtils.mv(file, one.file)
        one.queue
      end
    end
  end

  # @return [String] path of the bundle while it is needed
  def file = Settings.var("bundles", "#{id}.zip")

  # Hands it to the worker.
  def queue = Queues.put_once(BundleImportJob.new(id))

  # Asks the worker to end.
  def stop = self.class.where(id: id, state: %w[waiting running]).update_all(state: "stopping")

  # @return [Boolean] whether a person has asked for the end, as stored now
  def stopping? = self.class.where(id: id).pick(:state) == "stopping"

  # @return [Hash{String => Object}]
  def as_document
    {"id" => id,
     "filename" => filename,
     "state" => state,
     "done" => done,
     "total" => total,
     "problem" => problem,
     "notes" => notes,
     "workspace" => ((state == "done") ? workspace&.name : nil), "created_at" => created_at.iso8601}
  end
end
