# frozen_string_literal: true

require "json"

# Reads files of any kind for the command line and prints the sightings in them.
class SightingPrinter
  COLUMNS = %w[address kind found owner spend since status clicks conversions part text target declared file line].freeze

  # @param convention [Orvant::Convention, nil]
  # @param kind [String, nil] guessed for each file where none is named
  # @param said [Hash] what holds for all files: network, host
  def initialize(convention, kind: nil, **said)
    @convention = convention
    @kind = kind
    @said = said
    @rows = []
    @remarks = []
    @rejected = 0
  end

  attr_reader :remarks

  # @param name [String]
  # @param bytes [String]
  # @raise [Orvant::Error::UnusableTable]
  def add(name, bytes)
    kind = @kind || Orvant::Inventory::Source.guess(bytes, name)
    read = Orvant::Inventory::Source.read(kind, bytes, filename: name, convention: @convention, **@said)
    @rows.concat(read.sightings.map { |sighting| row(sighting, name) })
    @rejected += read.rejected.size
    @remarks.concat(remarks_on(read, name))
  rescue Orvant::Error => error
    raise error.class, "#{name}: #{error.message}"
  end

  # @return [Boolean] whether nothing was rejected
  def whole? = @rejected.zero?

  # @return [String]
  def csv = Orvant::Export::CSVTable.write(COLUMNS, @rows.map { |row| row.values_at(*COLUMNS) })

  # @return [String]
  def json = JSON.generate("sightings" => @rows)

  private

  def row(sighting, name)
    {"address" => sighting.address.raw,
     "kind" => sighting.kind,
     "found" => sighting.place,
     "owner" => sighting.owner,
     "spend" => sighting.spend && format("%.2f", sighting.spend / 100.0),
     "since" => sighting.since&.iso8601,
     "status" => sighting.status,
     "clicks" => sighting.clicks,
     "conversions" => sighting.conversions,
     "part" => sighting.part,
     "text" => sighting.text,
     "target" => sighting.target&.raw,
     "declared" => sighting.declared&.raw,
     "click" => sighting.click,
     "file" => name,
     "line" => sighting.line}
  end

  def remarks_on(read, name)
    read.rejected.map { |row| "#{name}, line #{row.line}: #{row.reason}" } + read.notes.map { |note|
      "#{name}: #{note}"
    } +
      read.apart.map { |one| "#{name}: set apart (#{one.reason}): #{one.address}" }
  end
end
