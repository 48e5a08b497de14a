# frozen_string_literal: true

require "digest"

# The base of imports: reads a file, keeps what is good and new, and says what was not.
class Importing
  BATCH = 1_000

  # @param kind [String] `links` or `traffic`
  # @return [Class]
  def self.of(kind) = {"links" => LinkImporting, "traffic" => TrafficImporting}.fetch(kind)

  # @param workspace [Workspace]
  # @param bytes [String] the file
  # @param filename [String]
  # @raise [Orvant::Error::UnusableTable] where no table can be read; nothing is kept then
  def initialize(workspace, bytes, filename:)
    @workspace = workspace
    @filename = filename.to_s.gsub(/[[:cntrl:]]/, "")[0, 200]
    @read = reader.read(bytes)
  end

  # @return [Hash{String => Object}] what an import would do: columns, counts, the first rows, what is rejected
  def preview
    new_ones = identities.uniq - known(identities.uniq)
    {"columns" => @read.columns, "encoding" => @read.encoding, "notes" => @read.notes, "rows" => items.size,
     "new" => new_ones.size, "already" => identities.uniq.size - new_ones.size,
     "sample" => items.first(20).map { |item| sample(item) }, "rejected" => rejected}
  end

  # @return [Import] with the good rows kept
  def call
    ActiveRecord::Base.transaction do
      @import = Import.create!(workspace: @workspace, kind: kind, filename: @filename, rejected: rejected, notes: @read.notes)
      added = items.each_slice(BATCH).sum { |batch| keep(batch) }
      @import.update!(added: added, already: items.size - added)
    end
    afterwards
    @import
  end

  private

  def rejected = @read.rejected.map { |row| {"line" => row.line, "reason" => row.reason, "cells" => row.cells} }

  def identities = @identities ||= items.map { |item| identity(item) }

  def digest(parts) = Digest::SHA256.hexdigest(parts.join("\u0000"))
end
