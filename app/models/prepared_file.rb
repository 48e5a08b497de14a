# frozen_string_literal: true

# A file of a workspace that takes longer to write than a request may: the worker writes it, and whoever asked
# fetches it.
class PreparedFile < ActiveRecord::Base
  ACTIVE = %w[waiting running].freeze
  # Seconds for which it can be fetched.
  LASTS = 24 * 3_600
  WRITERS = {"bundle" => ->(workspace, path) { BundleWriter.new(workspace).write(path) }}.freeze

  include Authored

  belongs_to :workspace

  class << self
    # @param workspace [Workspace]
    # @param kind [String] one of WRITERS
    # @return [PreparedFile] that is being written already, or a new one
    # @raise [Orvant::Error] while a sweep or an import is under way
    def begin!(workspace, kind)
      BundleWriter.hold_still(workspace)
      find_by(workspace: workspace, kind: kind, state: ACTIVE) || transaction do
        create!(workspace: workspace, kind: kind).tap { |one| Queues.put_once(PrepareJob.new(one.id)) }
      end
    end

    # @return [PreparedFile, nil] the last of a kind that was asked for
    def last_of(workspace, kind) = where(workspace: workspace, kind: kind).order(:id).last

    # Takes away those that nobody can fetch any more.
    def tidy = where("created_at < ?", Time.now.utc - LASTS).destroy_all
  end

  before_destroy { FileUtils.rm_f(file) }

  # @return [String] its path
  def file = Settings.var("prepared", id.to_s)

  # Writes it, here and now.
  def write
    update!(state: "running")
    WRITERS.fetch(kind).call(workspace, "#{file}.part")
    File.rename("#{file}.part", file)
    update!(state: "done", bytes: File.size(file))
  rescue Orvant::Error => error
    update!(state: "failed", problem: error.message)
  ensure
    FileUtils.rm_f("#{file}.part")
  end

  # @return [Boolean] whether it can be fetched
  def ready? = state == "done" && File.file?(file)

  # @return [Hash{String => Object}]
  def as_document
    {"id" => id, "kind" => kind, "state" => state, "problem" => problem, "bytes" => bytes,
     "created_at" => created_at.iso8601}
  end
end
