# frozen_string_literal: true

# Makes a workspace of a bundle, in the worker: a few rows at a time, so that nobody who writes waits, into a
# workspace that nobody sees until it is whole. Numbers in a bundle are its own: what a row names stands in
# the bundle too, or the bundle is refused.
class BundleReader
  # A person has asked for the end.
  class Stopped < StandardError; end

  # Rows of all parts, and how long they may take, in seconds.
  MOST_ROWS = 20_000_000
  MOST_SECONDS = 2 * 3_600
  HIGHEST_NUMBER = Bundle::Within::GONE - 1
  # What trips over a document that is shaped otherwise than it was written.
  MISSHAPEN = [NoMethodError, TypeError, ArgumentError, KeyError, IndexError, RangeError, FrozenError].freeze

  # @param bringing [BundleImport]
  def initialize(bringing)
    @bringing = bringing
    @ends_at = Process.clock_gettime(Process::CLOCK_MONOTONIC) + MOST_SECONDS
    @ids = Bundle.named.to_h { |model| [model, {}] }
    @later = []
    @rows = 0
    @notes = []
  end

  # @return [Workspace]
  # @raise [Orvant::Error] where it is no bundle, or something in it cannot be used; what was made until then
  #   is the bringing's workspace, and nobody sees it
  # @raise [Stopped]
  def call
    BundleArchive.open(@bringing.file) do |archive|
      @archive = archive
      keep
    end
    @workspace
  rescue *MISSHAPEN => error
    warn "#{error.class} in a bundle: #{error.message[0, Orvant::Cut::FAILURE]}\n  #{error.backtrace.first(5).join("\n  ")}"
    fail_at("something in it is not as Orvant writes it")
  end

  private

  def keep
    found
    Bundle.parts.each { |part| keep_part(part) if @archive.has?(part.file) }
    if @workspace.convention_versions.none?
      raise Orvant::Error, "conventions.json holds no version: a workspace needs one."
    end

    settle
    @part = nil
    keep_pictures
    derive
    open
  end

  def found
    head = @archive.hash(Bundle::HEAD)
    hold_version(head)
    title = Founding.title(head["title"].to_s)
    @bringing.update!(total: Bundle.parts.sum { |part| @archive.rows(part.file) })
    Workspace.transaction do
      @workspace = Workspace.create!(name: Founding.name(title), title: title, state: "arriving", host_map: {}, signatures: [], expected_tags: [])
      @bringing.update!(workspace: @workspace)
    end
    @hold = Bundle::Hold.new(@workspace, @notes.method(:push))
    WorkspaceChange.new(@workspace).call(within_reach(settings(head)))
    Deed.where(workspace: @workspace).delete_all
  end

  def hold_version(head)
    @format = head["format"]
    unless @format.is_a?(Integer) && @format.between?(1, Bundle::FORMAT)
      raise Orvant::Error,
        "The bundle is of format #{@format.inspect[0, Orvant::Cut::WORD]}, written by Orvant #{head["orvant"].to_s[0, Orvant::Cut::WORD]}; this is Orvant #{Orvant::VERSION}, which reads up to #{Bundle::FORMAT}: bring Orvant up to date, then the bundle in."
    end
  end

  # What this server's network is, the other does not know.
  def within_reach(wish)
    map = wish["host_map"].to_h
    kept = map.select do |host, target|
      Orvant::Net::HostMap.read({host => target}).within(Settings.reach)
    rescue Orvant::Error => error
      @notes << error.message
      false
    end
    wish.merge("host_map" => kept)
  end

  # The same bounds hold as for what a person saves.
  def settings(head)
    wish = head.slice(*Bundle::SETTINGS, "preferences")
    operation, = ApiDocument.own.find("PATCH", "/api/workspaces/one")
    fault = ApiDocument.own.schemer(operation.json).validate(wish).first
    return wish unless fault

    raise Orvant::Error, "#{Bundle::HEAD}: #{fault["data_pointer"].delete_prefix("/")[0, Orvant::Cut::QUOTE]} cannot be used as it is."
  end

  def keep_part(part)
    @part, @line = part, 0
    if part.json?
      @archive.list(part.file).each_slice(BundleArchive::BATCH) { |rows| keep_rows(rows) }
    else
      @archive.table(part.file) { |rows| keep_rows(rows) }
    end
  end

  def keep_rows(rows)
    hold_bounds(rows.size)
    prepared = rows.map { |row| row_of(row) }
    Workspace.transaction do
      ids = @part.model.insert_all!(prepared.map { |one| one[:facts] }, returning: %w[id]).rows.flatten.sort
      prepared.zip(ids) { |one, id| note(one, id) }
      @bringing.update_columns(done: @rows, updated_at: Time.now.utc)
    end
  rescue ActiveRecord::RecordNotUnique
    fail_at("two of its rows are the same")
  rescue ActiveRecord::NotNullViolation => error
    fail_at("#{error.message[/\w+\.(\w+)\s*\z/, 1] || "a cell"} is missing")
  rescue ActiveRecord::StatementInvalid => error
    raise if NoRoom.behind?(error)

    fail_at("a row cannot be kept")
  end

  def hold_bounds(more)
    raise Stopped if @bringing.stopping?

    fail_at("the bundle holds more than #{MOST_ROWS} rows") if (@rows += more) > MOST_ROWS
    return if Process.clock_gettime(Process::CLOCK_MONOTONIC) < @ends_at

    fail_at("the bundle takes longer than #{MOST_SECONDS / 3_600} hours")
  end

  # @return [Hash] number: in the bundle · line: in its part · facts: as stored · later: what can be said only
  #   once all rows are in
  def row_of(row)
    @line += 1
    number = number(row["number"])
    facts = @part.columns.to_h { |column|
      [column, row.key?(column) ? cast(column, row[column]) : usual(column)]
    }
    later = take_later(facts)
    refer(facts)
    @hold.call(@part.model, facts)
    facts["workspace_id"] = @workspace.id if @part.model.column_names.include?("workspace_id")
    {number: number, line: @line, facts: facts, later: later}
  rescue Orvant::Error => error
    error.message.start_with?("#{@part.file}, row") ? raise : fail_at(error.message.chomp("."))
  end

  def fail_at(what) = raise(Orvant::Error, "#{@part ? "#{@part.file}, row #{@line}: " : "The bundle cannot be used: "}#{what}.")

  def number(text)
    number = Integer(text.to_s, 10, exception: false)
    known = @ids[@part.model]
    if number&.between?(1, HIGHEST_NUMBER) && !known&.key?(number)
      known&.store(number, nil)
      return number
    end

    fail_at(number ? "#{number} numbers another row, or is no number of one" : "it has no number")
  end

  # A column that an older Orvant did not know.
  def usual(column)
    model = @part.model
    value = model.column_defaults[column]
    (value.nil? && %w[created_at updated_at].include?(column)) ? Time.now.utc : value
  end

  # Rows of the same part may stand further down.
  def take_later(facts)
    columns = @part.refs.select { |_, model| model == @part.model }.keys
    columns += Bundle::Within::LATER.fetch(@part.model.name, [])
    columns.to_h { |column| [column, facts[column]] }.compact.each_key { |column| facts[column] = nil }
  end

  def refer(facts)
    @part.refs.each { |column, model| facts[column] &&= id(model, facts[column], column) }
    facts.merge!(Bundle::Within.rename(@part.model, facts) { |model, number| within(model, number) })
  end

  def within(model, number)
    id(model, number, "a document of it") unless number == Bundle::Within::GONE
  end

  def id(model, number, where)
    @ids.fetch(model).fetch(number) do
      fail_at("#{where} names row #{number.to_s[0, Orvant::Cut::WORD]} of #{Bundle.file_of(model)}, which is not there")
    end
  end

  def note(one, id)
    @ids[@part.model][one[:number]] = id if @ids.key?(@part.model)
    @later << [@part, one[:line], id, one[:later]] if one[:later].any?
  end

  def settle
    @later.each_slice(BundleArchive::BATCH) do |some|
      hold_bounds(0)
      Workspace.transaction { some.each { |one| settle_one(*one) } }
    end
  end

  def settle_one(part, line, id, later)
    @part, @line = part, line
    part.refs.slice(*later.keys).each { |column, model| later[column] = id(model, later[column], column) }
    facts = Bundle::Within.rename(part.model, later) { |model, number| within(model, number) }
    part.model.where(id: id).update_all(facts)
  end

  def cast(column, value)
    type = @part.model.columns_hash.fetch(column).type
    return value if value.nil? || (@part.json? && type == :json)

    read = (type == :json) ? JSON.parse(value) : @part.model.type_for_attribute(column).cast(value)
    if read.nil? || (read.is_a?(String) && (!read.valid_encoding? || read.include?("\0")))
      fail_at("#{column} cannot be “#{value.to_s.scrub[0, Orvant::Cut::WORD]}”")
    end
    read
  rescue JSON::ParserError
    fail_at("#{column} is no JSON")
  end

  def keep_pictures
    @archive.pictures do |sweep, script, name, bytes|
      file = File.join(
        RehearsalRun.pictures(id(Sweep, sweep, "a picture"), id(RehearsalScript, script, "a picture")), name
      )
      FileUtils.mkdir_p(File.dirname(file))
      File.binwrite(file, bytes)
    end
  end

  # What is worked out of the rows.
  def derive
    # Orvants of that format did not tell what was found again from what was absent.
    Finding.supersede_found_again(@workspace) if @format < 2
    ClickHost.know(@workspace.id)
    Combination.renew(@workspace)
    TrafficRow.changed(@workspace, @workspace.traffic_rows.distinct.pluck(:date))
  end

  def open
    Workspace.transaction do
      @workspace.update!(state: "open", explained_at: nil)
      Membership.create!(person: @bringing.person, workspace: @workspace, role: "owner") if @bringing.person
      @bringing.update!(state: "done", notes: @notes)
      Explaining.later(@workspace)
    end
    Signpost.publish
  end
end
