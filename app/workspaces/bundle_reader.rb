# frozen_string_literal: true

require "csv"
require "tempfile"
require "zip"

# Makes a workspace of a bundle, all of it or nothing. Whatever stands in the archive is read as data and
# nowhere written under its own name.
class BundleReader
  # Bytes of one part and of all, unpacked; an archive may hold so many entries.
  MOST_PART = 1_073_741_824
  MOST = 2 * MOST_PART
  MOST_PICTURE = 8 * 1_048_576
  MOST_ENTRIES = 200_000
  BATCH = 500
  PNG = "\x89PNG\r\n\x1A\n".b
  # What may stand in a column that screens and judgements go by.
  KNOWN = {
    [Link, "kind"] => Orvant::Inventory::Sighting::KINDS,
    [Sighting, "kind"] => Orvant::Inventory::Sighting::KINDS,
    [Fix, "state"] => Fix::STATES,
    [Fix, "weight"] => Orvant::Finding::WEIGHTS,
    [Finding, "weight"] => Orvant::Finding::WEIGHTS,
    [Sender, "decision"] => Sender::DECISIONS,
    [Sweep, "state"] => %w[done stopped failed], [Import, "state"] => %w[done stopped failed]
  }.freeze

  # @param file [String] path of the archive
  # @param owner [Person, nil] who will own the workspace
  def initialize(file, owner: nil)
    @file = file
    @owner = owner
    @unpacked = 0
    @written = []
  end

  # @return [Array(Workspace, Array<String>)] the workspace, and what of it could not come along
  # @raise [Orvant::Error] where it is no bundle, or something in it cannot be used; nothing is kept then
  def call
    @notes = []
    Zip::File.open(@file) do |zip|
      @zip = zip
      hold_entries
      Workspace.transaction { keep }
    end
    Signpost.publish
    [@workspace, @notes]
  rescue Orvant::Error
    forget_pictures
    raise
  rescue Zip::Error, Zlib::Error, NoMethodError, TypeError, ArgumentError, KeyError, IOError, SystemCallError
    forget_pictures
    raise Orvant::Error,
      "This is no bundle of a workspace, or it is damaged: write it anew under Settings, Take everything out."
  rescue ActiveRecord::ActiveRecordError => error
    forget_pictures
    raise Orvant::Error, "A row of the bundle cannot be kept: #{error.message[0, Orvant::Cut::FAILURE]}."
  end

  private

  def hold_entries
    names = @zip.entries.map(&:name)
    raise Orvant::Error, "The archive holds more than #{MOST_ENTRIES} entries." if names.size > MOST_ENTRIES

    strange = names.find do |name|
      name != Bundle::HEAD && Bundle.parts.none? { |part| part.file == name } && !Bundle::PICTURE.match?(name)
    end
    raise Orvant::Error, "“#{strange[0, Orvant::Cut::QUOTE]}” is no part of a bundle." if strange
    unless names.include?(Bundle::HEAD)
      raise Orvant::Error, "The archive lacks #{Bundle::HEAD}: it is no bundle of a workspace."
    end
  end

  def keep
    found
    @base = Bundle.parts.to_h { |part| [part.model, part.model.maximum(:id).to_i] }
    Bundle.parts.each { |part| keep_part(part) if @zip.find_entry(part.file) }
    if @workspace.convention_versions.none?
      raise Orvant::Error, "conventions.json holds no version: a workspace needs one."
    end

    keep_pictures
    ClickHost.know(@workspace.id)
    Combination.renew(@workspace)
    TrafficRow.changed(@workspace, @workspace.traffic_rows.distinct.pluck(:date))
    @workspace.update!(changed_at: Time.now.utc, explained_at: nil)
    Explaining.later(@workspace)
  end

  def found
    head = json(Bundle::HEAD)
    unless head["format"] == Bundle::FORMAT
      raise Orvant::Error,
        "The bundle is of format #{head["format"].inspect[0, Orvant::Cut::WORD]}; this Orvant reads #{Bundle::FORMAT}."
    end

    @workspace = Workspace.create!(
      name: Founding.name(Founding.title(head["title"].to_s)),
      title: Founding.title(head["title"].to_s),
      host_map: {},
      signatures: [],
      expected_tags: []
    )
    unless head.fetch("expected_fields", [])
        .all? { |one| one.values_at("page", "field", "role").all?(String) }
      raise Orvant::Error, "#{Bundle::HEAD}: expected_fields is no list of pages with their fields."
    end

    WorkspaceChange.new(@workspace).call(head.slice(*Bundle::SETTINGS, "preferences"))
    Deed.where(workspace: @workspace).delete_all
    Membership.create!(person: @owner, workspace: @workspace, role: "owner") if @owner
  end

  def unpack(name, most)
    file = Tempfile.new("orvant-part", binmode: true)
    @zip.find_entry(name).get_input_stream do |stream|
      while (chunk = stream.read(65_536))
        @unpacked += chunk.bytesize
        if file.size + chunk.bytesize > most || @unpacked > MOST
          raise Orvant::Error, "#{name} is larger than Orvant unpacks."
        end

        file.write(chunk)
      end
    end
    file.tap(&:rewind)
  end

  def json(name)
    JSON.parse(unpack(name, 64 * 1_048_576).read.force_encoding(Encoding::UTF_8))
  rescue JSON::ParserError
    raise Orvant::Error, "#{name} is no JSON."
  end

  def keep_part(part)
    @part = part
    @line = 0
    part_rows(part).each_slice(BATCH) do |rows|
      part.model.insert_all!(rows.filter_map { |row| row_of(part, row) }) if rows.any?
    end
    connection = part.model.connection
    connection.reset_pk_sequence!(part.model.table_name) if connection.respond_to?(:reset_pk_sequence!)
  rescue CSV::MalformedCSVError => error
    fail_at(error.message[0, Orvant::Cut::FAILURE])
  end

  def part_rows(part)
    if part.json?
      return json(part.file).tap { |list|
        fail_at("it is no list") unless list.is_a?(Array) &&
          list.all?(Hash)
      }
    end

    CSV.new(
      unpack(part.file, MOST_PART).tap { |file| file.set_encoding(Encoding::UTF_8) },
      headers: true
    ).lazy
      .map { |row| row.to_h.transform_values { |text| text&.delete_prefix("'") } }
  end

  def row_of(part, row)
    @line += 1
    number = Integer(row["number"].to_s, 10, exception: false) || fail_at("it has no number")
    facts = part.columns.select { |column| row.key?(column) }
      .to_h { |column| [column, cast(part, column, row[column])] }
    part.refs.each { |column, model| facts[column] &&= id(model, facts[column]) }
    Bundle::Within.rename(part.model, facts) { |model, other| other && id(model, other) }
    hold(part, facts)
    facts["workspace_id"] = @workspace.id if part.model.column_names.include?("workspace_id")
    facts.merge("id" => id(part.model, number))
  end

  def id(model, number)
    if number.positive? && number < 1_000_000_000
      @base.fetch(model) + number
    else
      fail_at("#{number} is no number of a row")
    end
  end

  def cast(part, column, value)
    type = part.model.columns_hash.fetch(column).type
    return value if value.nil? || (part.json? && type == :json)
    return JSON.parse(value) if type == :json

    read = part.model.type_for_attribute(column).cast(value)
    if read.nil? || (read.is_a?(String) && !read.valid_encoding?)
      fail_at("#{column} cannot be “#{value.to_s.scrub[0, Orvant::Cut::WORD]}”")
    else
      read
    end
  rescue JSON::ParserError
    fail_at("#{column} is no JSON")
  end

  def hold(part, facts)
    KNOWN.each do |(model, column), values|
      if model == part.model && facts.key?(column) && !values.include?(facts[column])
        fail_at("#{column} cannot be “#{facts[column].to_s[0, Orvant::Cut::WORD]}”")
      end
    end
    case part.model.name
    when "ConventionVersion" then Orvant::Convention.read(facts["document"])
    when "RehearsalScript" then Orvant::Rehearsal.read(facts["document"])
    when "Link"
      Orvant::Address.parse(facts["address"].to_s)
        .then { |address| facts.merge!("normal_form" => address.normal_form, "host" => address.host) }
    when "Signpost" then hold_signpost(facts)
    end
  end

  # A path leads to one place in one Orvant.
  def hold_signpost(facts)
    facts["normal_path"] = Orvant::Signpost.normal(facts["path"].to_s)
    Orvant::Address.parse(facts["target"].to_s)
    unless Orvant::Signpost::PATH.match?(facts["path"].to_s)
      fail_at("“#{facts["path"].to_s[0, Orvant::Cut::QUOTE]}” is no path of a signpost")
    end
    return unless Signpost.exists?(host: facts["host"], normal_path: facts["normal_path"])

    @notes << "The signpost #{facts["host"]}#{facts["path"]} is taken in another workspace; it came along taken down, under another path."
    facts["path"] += "-#{SecureRandom.hex(3)}"
    facts["taken_down_at"] = Time.now.utc
    facts["normal_path"] = Orvant::Signpost.normal(facts["path"])
  end

  def keep_pictures
    @zip.entries.each do |entry|
      sweep, script, name = Bundle::PICTURE.match(entry.name)&.captures
      next unless sweep

      bytes = unpack(entry.name, MOST_PICTURE).read
      raise Orvant::Error, "#{entry.name} is no picture." unless bytes.b.start_with?(PNG)

      file = File.join(RehearsalRun.pictures(id(Sweep, sweep.to_i), id(RehearsalScript, script.to_i)), name)
      FileUtils.mkdir_p(File.dirname(file))
      @written << File.dirname(file)
      File.binwrite(file, bytes)
    end
  end

  # Of a workspace that does not come to be nothing stays.
  def forget_pictures = FileUtils.rm_rf(@written)

  def fail_at(what) = raise(Orvant::Error, "#{@part&.file}, row #{@line}: #{what}.")
end
