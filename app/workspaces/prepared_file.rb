# frozen_string_literal: true

# An answer that takes longer than a request may: the worker makes it, and whoever asked fetches it.
class PreparedFile < ActiveRecord::Base
  ACTIVE = %w[waiting running].freeze
  # Seconds for which it can be fetched.
  LASTS = 24 * 3_600
  # What answers of a kind are, by the workspace and what is asked; later rooms add theirs
  # (config/subscriptions.rb).
  DOCUMENTS = {}
  # What writes files of a kind, by the workspace and a path; as above.
  FILES = {}
  # From so many links on a kind takes longer than two seconds.
  LARGE = {"learning" => 1_500, "effect" => 8_000, "claims" => 12_000}.freeze

  include Authored

  belongs_to :workspace

  class << self
    # @param workspace [Workspace]
    # @param kind [String] one of LARGE
    # @return [Boolean] whether the worker is to make it
    def large?(workspace, kind) = workspace.links.live.limit(LARGE.fetch(kind)).count == LARGE.fetch(kind)

    # Has it made. What the same asker has waiting of its kind is wanted no more.
    #
    # @param workspace [Workspace]
    # @param kind [String] one of DOCUMENTS
    # @param asked [Hash]
    # @param asker [String] who alone may fetch it
    # @return [PreparedFile]
    def begin!(workspace, kind, asked, asker)
      transaction do
        where(workspace: workspace, kind: kind, asker: asker, state: "waiting").destroy_all
        create!(workspace: workspace, kind: kind, asked: asked, asker: asker).tap(&:queue)
      end
    end

    # @param workspace [Workspace]
    # @param kind [String] one of DOCUMENTS
    # @param asked [Hash]
    # @param asker [String]
    # @return [PreparedFile, nil] the last that can be fetched
    def last_of(workspace, kind, asked, asker)
      where(workspace: workspace, kind: kind, asker: asker, state: "done").order(id: :desc)
        .find { |one| one.asked == asked && one.ready? }
    end

    # @param workspace [Workspace]
    # @param kind [String] one of FILES
    # @return [PreparedFile] the one that is being written already, or a new one
    def file!(workspace, kind)
      find_by(workspace: workspace, kind: kind, state: ACTIVE) ||
        transaction { create!(workspace: workspace, kind: kind).tap(&:queue) }
    end

    # Takes away those that nobody can fetch any more.
    def tidy = where("created_at < ?", Time.now.utc - LASTS).destroy_all
  end

  before_destroy { FileUtils.rm_f(file) }

  # @return [String] its path
  def file = Settings.var("prepared", id.to_s)

  # Hands it to the worker.
  def queue = Queues.put_once(PrepareJob.new(id))

  # Makes it, here and now.
  def write
    update!(state: "running")
    part = "#{file}.part"
    make(part)
    File.rename(part, file)
    update!(state: "done", bytes: File.size(file))
  rescue Orvant::Error => error
    update!(state: "failed", problem: error.message)
  ensure
    FileUtils.rm_f("#{file}.part")
  end

  def make(path)
    return FILES.fetch(kind).call(workspace, path) if FILES.key?(kind)

    File.write(path, JSON.generate(DOCUMENTS.fetch(kind).call(workspace, asked)))
  end
  private :make

  # @return [Boolean] whether it can be fetched
  def ready? = state == "done" && File.file?(file)

  # @return [Hash{String => Object}]
  def as_document
    {
      "id" => id,
      "kind" => kind,
      "state" => state,
      "problem" => problem,
      "bytes" => bytes,
      "created_at" => created_at.iso8601
    }
  end
end
