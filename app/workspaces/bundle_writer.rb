# frozen_string_literal: true

require "csv"
require "zip"

# Writes a workspace as a bundle.
class BundleWriter
  # Text that a spreadsheet would compute, or that begins with the sign that keeps it from that.
  SPOKEN = /\A['=+\-@\t\r]/
  # A moment as written, to the microsecond, so that nothing is lost.
  MICROSECONDS = 6

  # @param workspace [Workspace]
  def initialize(workspace)
    @workspace = workspace
    @numbers = Hash.new { |all, model| all[model] = {} }
  end

  # @param file [String] path
  # @return [void]
  # @raise [Orvant::Error] while something is under way
  def write(file)
    if @workspace.busy?
      raise Orvant::Error,
        "A sweep or an import is under way in “#{@workspace.title}”: wait for its end, or stop it."
    end

    Zip::OutputStream.open(file) do |zip|
      @zip = zip
      number_rows
      entry(Bundle::HEAD) { zip << JSON.pretty_generate(head) }
      Bundle.parts.each { |part| entry(part.file) { part.json? ? write_json(part) : write_csv(part) } }
      pictures
    end
  end

  private

  # Times in the archive would make the same workspace another file every time.
  def entry(name)
    @zip.put_next_entry(Zip::Entry.new(nil, name, time: Zip::DOSTime.new(1980, 1, 1)))
    yield
  end

  # What names rows may name any of them, also those further down.
  def number_rows
    Bundle.parts.flat_map { |part| part.refs.values }.uniq.each do |model|
      part = Bundle.parts.find { |one| one.model == model }
      part.of.call(@workspace).order(:id).pluck(:id).each.with_index(1) do |id, number|
        @numbers[model][id] = number
      end
    end
  end

  def head
    settings = WorkspaceChange.new(@workspace).document.slice("title", *Bundle::SETTINGS)
    settings["networks"] = settings["networks"].map { |one| one.except("has_key") }
    {
      "format" => Bundle::FORMAT,
      "name" => @workspace.name,
      **settings,
      "preferences" => @workspace.preferences
    }
  end

  def rows(part)
    part.of.call(@workspace).find_each(order: :asc).lazy.with_index(1)
      .map { |row, number| [number, carried(part, row)] }
  end

  def carried(part, row)
    facts = row.attributes.slice(*part.columns)
    facts["options"] = facts["options"].to_h.except("key") if part.model == Import
    part.refs.each { |column, model| facts[column] = @numbers[model][facts[column]] }
    Bundle::Within.rename(part.model, facts) { |model, id| @numbers[model][id] }
  end

  def write_json(part)
    @zip << JSON.pretty_generate(rows(part).map { |number, facts|
      {
        "number" => number,
        **facts.transform_values { |value| plain(value) }
      }
    }.to_a)
  end

  def write_csv(part)
    @zip << CSV.generate_line(["number", *part.columns])
    rows(part).each do |number, facts|
      @zip << CSV.generate_line([number, *facts.values_at(*part.columns).map { |value| cell(value) }])
    end
  end

  def plain(value) = (value.respond_to?(:iso8601) && !value.is_a?(Date)) ? value.iso8601(MICROSECONDS) : value

  def cell(value)
    case value
    when nil, Numeric then value
    when String then value.match?(SPOKEN) ? "'#{value}" : value
    when Array, Hash then JSON.generate(value)
    when Date then value.iso8601
    when true, false then value.to_s
    else value.iso8601(MICROSECONDS)
    end
  end

  def pictures
    runs = RehearsalRun.where(sweep_id: @workspace.sweeps.select(:id)).order(:id)
    runs.pluck(:sweep_id, :rehearsal_script_id).each do |sweep, script|
      folder = RehearsalRun.pictures(sweep, script)
      if Dir.exist?(folder)
        Dir.children(folder).grep(/\Astep-\d+\.png\z/).sort
          .each { |name|
            entry("pictures/#{@numbers[Sweep][sweep]}-#{@numbers[RehearsalScript][script]}/#{name}") do
              @zip << File.binread(File.join(folder, name))
            end
          }
      end
    end
  end
end
