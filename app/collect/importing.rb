# frozen_string_literal: true

require "digest"

# The base of imports: takes what a reader made of a source, keeps what is good and new, and says what was
# not.
class Importing
  # Rows that are kept in one transaction, which keeps all others who write waiting.
  BATCH = 200
  MOST_CHANGES = 2_000
  # What reads a kind of file that holds no links; later rooms add theirs (config/subscriptions.rb).
  KINDS = {}
  # Ruby's highest priority of a thread.
  FIRST = 3
  # Rows that a preview shows.
  SAMPLE = 20

  class << self
    # @param kind [String] one of KINDS, or a kind of Inventory::Source
    # @return [Class]
    def of(kind) = Object.const_get(KINDS.fetch(kind, "LinkImporting"))

    # @param path [String]
    # @return [String, Pathname] what it reads of a file that was stored
    def content(path) = File.binread(path)

    # @param parts [Array<String>] what makes two rows the same one
    # @return [String] by which it is found again
    def digest(parts) = Digest::SHA256.hexdigest(parts.join("\u0000"))
  end

  # @param workspace [Workspace]
  # @param bytes [String, Orvant::Inventory::Collected] the file, or what was collected already
  # @param filename [String]
  # @param kind [String]
  # @param source [String] the name under which the same source comes again; with it, the source is taken to
  #   be whole
  # @param options [Hash] what a person said beside the file
  # @param import [Import, nil] that was begun already
  # @raise [Orvant::Error::UnusableTable] where nothing can be read; nothing is kept then
  def initialize(workspace, bytes, filename:, kind: usual_kind, source: "", options: {}, import: nil)
    @workspace = workspace
    @filename = filename.to_s.gsub(/[[:cntrl:]]/, "")[0, Orvant::Cut::LINE]
    @kind = kind
    @source = source.to_s.strip[0, Orvant::Cut::LINE]
    @options = options.transform_keys(&:to_sym)
    @import = import
    @read = bytes.is_a?(Orvant::Inventory::Collected) ? bytes : reading(bytes)
  end

  # @return [Hash{String => Object}] what an import would do: columns, counts, the first rows, what is
  #   rejected
  def preview
    new_ones = identities.uniq - known(identities.uniq)
    {"columns" => @read.columns,
     "header" => header,
     "fields" => fields,
     "encoding" => @read.encoding,
     "notes" => @read.notes,
     "rows" => items.size,
     "new" => new_ones.size,
     "already" => identities.uniq.size - new_ones.size,
     "apart" => @read.apart.map(&:to_h),
     "changes" => changes,
     "sample" => items.first(SAMPLE).map { |item| sample(item) }, "rejected" => rejected}
  end

  # @return [Array<String>] the names of the file's columns
  def header = @read.header

  # @return [Import] with the good rows kept
  def call
    @import ||= Import.new(workspace: @workspace, kind: @kind, filename: @filename, source: @source)
    keep_all
    @workspace.tell("workspace.changed")
    @import
  rescue => error
    if @import&.persisted?
      @import.update_columns(
        already: [@import.done - @import.added, 0].max,
        state: "failed",
        problem: NoRoom.sentence(error, "The import")
      )
    end
    raise
  end

  private

  def keep_all
    @import.update!(
      rejected: rejected,
      notes: @read.notes,
      apart: @read.apart.map(&:to_h),
      differences: changes,
      done: 0,
      total: items.size,
      state: "running"
    )
    forget_half
    items.each_slice(BATCH) { |batch| keep_batch(batch) unless @import.stopping? }
    holding do
      afterwards
      @import.update!(already: @import.done - @import.added, state: @import.stopping? ? "stopped" : "done")
    end
  end

  # An import whose worker was ended is read from its beginning: what cannot be told from what comes again
  # goes.
  def forget_half
  end

  def keep_batch(batch)
    prepared = prepared(batch)
    holding { @import.progress(batch.size, keep(prepared)) }
  end

  # What can be made of rows before the database is held.
  def prepared(batch) = batch

  # An import gives way to other requests of its process, but not while it holds the database: those who wait
  # for it would wait for all of them.
  def holding(&)
    usual = Thread.current.priority
    Thread.current.priority = FIRST
    ActiveRecord::Base.transaction(&)
  ensure
    Thread.current.priority = usual
  end

  def usual_kind = "links"

  # Changes of a source that has come before; others have none.
  def changes = []

  def fields = []

  def afterwards
  end

  def rejected
    @read.rejected.map { |row| {"line" => row.line, "reason" => row.reason, "cells" => row.cells} }
  end

  def items = @read.items

  def identities = @identities ||= items.map { |item| identity(item) }

  def digest(parts) = Importing.digest(parts)
end
