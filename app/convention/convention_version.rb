# frozen_string_literal: true

# One version of a workspace's convention. What an earlier version judged stays as it was.
class ConventionVersion < ActiveRecord::Base
  belongs_to :workspace

  # Raised when somebody else saved in the meantime.
  class Overtaken < StandardError
    attr_reader :latest

    # @param latest [ConventionVersion]
    def initialize(latest)
      @latest = latest
      super("#{latest.author.empty? ? "Somebody" : latest.author} saved version #{latest.version} in the meantime. Your rules are not lost: compare them with that version, then save them on top of it.")
    end
  end

  # @param workspace [Workspace]
  # @param document [Hash] not read yet
  # @param base [Integer] the version that it was made from
  # @return [ConventionVersion]
  # @raise [Orvant::Error::UnusableDocument] naming path and reason of each fault
  # @raise [Overtaken]
  def self.save!(workspace, document, base:, note: "", author: "", restores: nil)
    Orvant::Convention.read(document)
    transaction do
      earlier = workspace.convention_versions.order(:version).last
      raise Overtaken.new(earlier) if earlier && earlier.version != base

      version = workspace.convention_versions.create!(
        version: base + 1,
        document: document,
        note: note,
        author: author,
        restores: restores
      )
      workspace.tell("rules.saved", version: version, earlier: earlier)
      version
    end
  rescue ActiveRecord::RecordNotUnique
    raise Overtaken.new(workspace.convention_version)
  end

  # What of the rules decides which address a click on an ad opens.
  READS_ADS = %w[billed_hosts dialects].freeze

  # @param other [ConventionVersion]
  # @return [Boolean]
  def reads_ads_otherwise?(other) = document.slice(*READS_ADS) != other.document.slice(*READS_ADS)

  # Versions never change, and every request asks for one: so many are kept as read.
  READ = Orvant::Memory.new(50)

  # @return [Orvant::Convention] the same object for the same version, as threads may share it
  def convention
    @convention ||= READ.fetch(mark) { Orvant::Convention.new(document) }
  end

  # @return [Array] by which what is made from it is remembered: another database may use the same id. As it
  #   is stored, its document need not be parsed for it.
  def mark = @mark ||= [id, created_at, document_before_type_cast.hash]

  # @return [Hash{String => Object}] without the document
  def as_document
    {
      "version" => version,
      "note" => note,
      "author" => author,
      "restores" => restores,
      "since" => created_at.iso8601
    }
  end
end
