# frozen_string_literal: true

require "json"

# A judged list of links, in the three forms of `bin/orvant check`.
class CheckReport
  COLUMNS = %w[line address code weight parameter message evidence correction corrected_address remedy].freeze

  # @param list [Orvant::Inventory::LinkList]
  # @param convention [Orvant::Convention]
  def initialize(list, convention)
    @list = list
    @personal = convention.personal_data
    @judged = list.sightings.map do |sighting|
      [
        sighting,
        Orvant::Checks::Param.judge(sighting.address, convention, kind: sighting.kind, sightings: [sighting])
      ]
    end
    entries = list.sightings.map do |sighting|
      Orvant::Checks::Param::Entry.new(
        id: sighting.line,
        address: sighting.address,
        kind: sighting.kind,
        sightings: [sighting]
      )
    end
    @over_all = Orvant::Checks::Param.judge_all(entries, convention)
  end

  # @return [Boolean] whether nothing breaks or skews
  def sound? = findings.none? { |finding| %w[breaks skews].include?(finding.weight) }

  # @return [Array<String>] sentences on rows that were not judged, and on the file
  def remarks
    @list.notes + @list.rejected.map { |row| "line #{row.line} was not judged: #{row.reason}" }
  end

  # @return [Array<String>] one object a row; behind them one without address for what shows over many links
  #   only
  def json
    lines = @judged.map do |sighting, findings|
      {
        "address" => sighting.address.raw,
        "line" => sighting.line,
        "findings" => findings.map { |one| document(one) }
      }
    end
    if @over_all.any?
      lines << {"address" => nil, "line" => nil, "findings" => @over_all.map { |one| document(one) }}
    end
    lines.map { |line| JSON.generate(Orvant::Export::Masking.masked(line, @personal)) }
  end

  # @return [String] one row a finding; formulas are neutralised
  def csv
    rows = @judged.flat_map do |sighting, findings|
      findings.map { |finding| [sighting.line, masked(sighting.address.raw), *cells(finding)] }
    end
    rows += @over_all.map { |finding| [nil, nil, *cells(finding)] }
    Orvant::Export::CSVTable.write(COLUMNS, rows)
  end

  # @return [Array<String>]
  def text
    lines = @judged.reject { |_, findings| findings.empty? }.flat_map do |sighting, findings|
      ["line #{sighting.line}  #{masked(sighting.address.raw)}"] + findings.flat_map { |finding| finding_text(finding) }
    end
    lines += ["over all links"] + @over_all.flat_map { |finding| finding_text(finding) } if @over_all.any?
    lines + ["#{Orvant::Words.counted(@judged.size, "link")} judged: #{@judged.count { |_, found| found.empty? }} clean, #{Orvant::Finding::WEIGHTS.map { |weight| "#{findings.count { |one| one.weight == weight }} #{weight}" }.join(", ")}."]
  end

  private

  def document(finding) = finding.to_h.merge("remedy" => finding.remedy.action)

  def cells(finding)
    document(finding).merge("evidence" => finding.evidence.join("\n"))
      .values_at(*COLUMNS.drop(2))
      .map { |cell| cell && masked(cell) }
  end

  def findings = @findings ||= @judged.flat_map(&:last) + @over_all

  def masked(text) = @personal.mask(text.to_s)

  def finding_text(finding)
    ["  #{finding.weight.ljust(6)} #{finding.code}  #{masked(finding.message)}",
      "         do: #{masked(finding.remedy.action)}",
      finding.correction && "         correction: #{masked(finding.correction)}",
      finding.corrected_address && "         write: #{masked(finding.corrected_address)}"].compact
  end
end
