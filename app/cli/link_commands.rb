# frozen_string_literal: true

require_relative "build_report"
require_relative "check_report"
require_relative "command"
require_relative "convention_command"
require_relative "learning_report"
require_relative "sighting_printer"

# Links: read from files, judged and made, without a server or a database.
class LinkCommands < Command
  desc "collect FILE…", "Read links from files of any kind and print their sightings"
  option :format, enum: %w[csv json], default: "csv"
  option :kind, enum: Orvant::Inventory::Source::KINDS, desc: "what the files hold; guessed unless named"
  option :convention, banner: "FILE", desc: "gives dialects, own hosts and billed hosts"
  option :network, desc: "whose dialect an export of ads is in"
  option :host, desc: "of a register's paths that name none"
  option :matching, banner: "FILE", desc: "JSON object of field and column, where names do not tell"
  # @raise [SystemExit] 0 all was read · 1 some rows were rejected · 2 a file cannot be used
  def collect(*files)
    unusable("Name at least one file.") if files.empty?
    convention = options[:convention] && Orvant::Convention.read(read(options[:convention]))
    collection = SightingPrinter.new(
      convention,
      kind: options[:kind],
      network: options[:network],
      host: options[:host],
      matching: matching
    )
    files.each { |file| collection.add(File.basename(file), read(file)) }
    puts collection.public_send(options[:format])
    collection.remarks.each { |remark| warn remark }
    exit(collection.whole? ? 0 : 1)
  end

  desc "resolve PATTERN", "Print the address that a click would open"
  option :landing, required: true, banner: "ADDRESS"
  option :dialect, required: true, banner: "FILE"
  option :tail, default: "", banner: "PARAMETERS"
  option :value, type: :array, default: [], banner: "name=value …"
  option :samples,
    type: :boolean,
    default: true,
    desc: "fill tokens without a given value with the dialect's samples"
  option :format, enum: %w[text json], default: "text"
  # @raise [SystemExit] 0 every token was filled · 1 some resolved to nothing or are not offered · 2 unusable
  #   input
  def resolve(pattern)
    dialect = Orvant::Convention::Dialect.read(read(options[:dialect]))
    level = Orvant::Inventory::Level.new(
      name: "ad",
      landing: Orvant::Address.parse(options[:landing]).raw,
      pattern: pattern,
      tail: options[:tail]
    )
    click = Orvant::Inventory::ClickAddress.new(
      [level],
      dialect,
      values: options[:value].to_h { |pair| pair.split("=", 2).then { |name, value| [name, value.to_s] } },
      samples: options[:samples]
    )
    puts((options[:format] == "json") ? JSON.generate(click.to_h) : click.to_s)
    click.empty.each { |token| warn "#{token} has nothing to fill it." }
    click.unknown.each { |token| warn "#{dialect.network} offers no #{token}." }
    exit((click.empty.empty? && click.unknown.empty?) ? 0 : 1)
  end

  desc "check FILE.csv", "Judge a list of links by a convention, without server or database"
  option :convention, required: true, banner: "FILE"
  option :format, enum: %w[text json csv], default: "text"
  # @raise [SystemExit] 0 clean or untidy only · 1 something breaks or skews · 2 unusable input
  def check(file)
    convention = Orvant::Convention.read(read(options[:convention]))
    report = CheckReport.new(Orvant::Inventory::LinkList.read(read(file)), convention)
    puts report.public_send(options[:format])
    report.remarks.each { |remark| warn remark }
    exit(report.sound? ? 0 : 1)
  end

  desc "learn FILE…", "Propose a convention from links in files of any kind"
  option :format,
    enum: %w[text json],
    default: "text",
    desc: "json: a whole convention that can be used at once"
  option :kind, enum: Orvant::Inventory::Source::KINDS, desc: "what the files hold; guessed unless named"
  # @raise [SystemExit] 2 where a file cannot be used, or nothing can be learned
  def learn(*files)
    unusable("Name at least one file.") if files.empty?
    report = LearningReport.new(files.map { |file| [File.basename(file), read(file)] }, kind: options[:kind])
    puts report.public_send(options[:format])
  end

  desc "build SHEET", "Make finished links from a sheet with a column for each role, and judge them"
  option :convention, required: true, banner: "FILE"
  option :format, enum: %w[text json csv], default: "csv"
  # @raise [SystemExit] 0 every row may leave · 1 some are rejected · 2 unusable input
  def build(file)
    convention = Orvant::Convention.read(read(options[:convention]))
    report = BuildReport.new(Orvant::Build::SheetTable.read(read(file), convention), convention)
    puts report.public_send(options[:format])
    report.remarks.each { |remark| warn remark }
    exit(report.sound? ? 0 : 1)
  end

  desc "convention validate FILE", "Hold a convention against its schema and against itself"
  subcommand "convention", ConventionCommand
end
