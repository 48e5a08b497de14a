# frozen_string_literal: true

require "csv"
require "digest"
require "zip"

# Writes a workspace as a bundle.
class BundleWriter
  # Text that a spreadsheet would compute, or that begins with the sign that keeps it from that.
  SPOKEN = /\A['=+\-@\t\r]/
  # A moment as written, to the microsecond, so that nothing is lost.
  MICROSECONDS = 6
  # A mail address within a sentence.
  MAIL = /[^\s@,;<>"“”]+@[^\s@,;<>"“”]+/

  # @param workspace [Workspace]
  # @raise [Orvant::Error] while something is under way in it
  def self.hold_still(workspace)
    return unless workspace.busy?

    raise Orvant::Error, "A sweep or an import is under way in “#{workspace.title}”: wait for its end, or stop it."
  end

  # @param workspace [Workspace]
  def initialize(workspace)
    @workspace = workspace
    @numbers = Hash.new { |all, model| all[model] = {} }
    @written = {}
  end

  # @param file [String] path
  # @return [void]
  # @raise [Orvant::Error] while something is under way
  def write(file)
    self.class.hold_still(@workspace)
    Zip::OutputStream.open(file) do |zip|
      @zip = zip
      number_rows
      entry(Bundle::HEAD) { |out| out << JSON.pretty_generate(head) }
      Bundle.parts.each { |part|
        entry(part.file) { |out|
          part.json? ? write_json(part, out) : write_csv(part, out)
        }
      }
      pictures
      entry(Bundle::DIGESTS) { |out| out << JSON.pretty_generate(@written) }
    end
  end

  private

  # Times in the archive would make the same workspace another file every time.
  def entry(name)
    @zip.put_next_entry(Zip::Entry.new(nil, name, time: Zip::DOSTime.new(1980, 1, 1)))
    digested = Digested.new(@zip)
    rows = yield digested
    said = {"sha256" => digested.digest.hexdigest, "rows" => rows.is_a?(Integer) ? rows : nil}.compact
    @written[name] = said unless name == Bundle::DIGESTS
  end

  # Writes, and reckons the digest of what was written.
  class Digested
    # @return [Digest::SHA256]
    attr_reader :digest

    # @param out [#<<]
    def initialize(out)
      @out = out
      @digest = Digest::SHA256.new
    end

    # @param text [String]
    def <<(text)
      @digest << text
      @out << text
      self
    end
  end
  private_constant :Digested

  # What names rows may name any of them, also those further down.
  def number_rows
    Bundle.named.each do |model|
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
      "orvant" => Orvant::VERSION,
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
    facts["said"] = facts["said"].gsub(MAIL, "somebody") if part.model == Deed
    part.refs.each { |column, model| facts[column] = @numbers[model][facts[column]] }
    Bundle::Within.rename(part.model, facts) { |model, id| @numbers[model][id] }
  end

  # One row a line, so that a person can read it and a program need not read all at once.
  def write_json(part, out)
    out << "["
    many = rows(part).map { |number, facts|
      row = {"number" => number, **facts.transform_values { |value| plain(value) }}
      out << "#{"," unless number == 1}\n#{JSON.generate(row)}"
    }.count
    out << "\n]\n"
    many
  end

  def write_csv(part, out)
    out << CSV.generate_line(["number", *part.columns])
    rows(part).map { |number, facts|
      out << CSV.generate_line([number, *facts.values_at(*part.columns).map { |value| cell(value) }])
    }.count
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
      next unless Dir.exist?(folder)

      Dir.children(folder).grep(/\Astep-\d+\.png\z/).sort.each do |name|
        entry("pictures/#{@numbers[Sweep][sweep]}-#{@numbers[RehearsalScript][script]}/#{name}") do |out|
          out << File.binread(File.join(folder, name))
        end
      end
    end
  end
end
