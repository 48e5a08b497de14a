# frozen_string_literal: true

require "json"
require "thor"
require_relative "build_report"
require_relative "check_report"
require_relative "convention_command"
require_relative "explain_report"
require_relative "known_links"
require_relative "learning_report"
require_relative "remote"
require_relative "remote_bundle"
require_relative "remote_import"
require_relative "remote_sweep"
require_relative "sessions_report"
require_relative "sighting_printer"
require_relative "trail_printer"
require_relative "watch_printer"

# What a person or a pipeline can do without the screens. Answers go to standard output, remarks to standard
# error.
class CommandLine < Thor
  UNUSABLE = 2
  # Where Orvant is served, and looked for, where nothing else is said.
  PORT = Integer(ENV["ORVANT_PORT"] || 4600, exception: false) || 4600
  HERE = "http://127.0.0.1:#{PORT}"
  # What SQLite says of a file that it cannot read.
  DAMAGED = /file is not a database|database disk image is malformed/

  def self.exit_on_failure? = true

  # Help is given where people ask for it, not only by `help COMMAND`; what cannot be used is said in a
  # sentence.
  def self.start(arguments = ARGV, ...)
    name, *rest = arguments
    super((rest & %w[--help -h]).any? ? ["help", name] : arguments, ...)
  rescue Orvant::Error => error
    warn error.message
    exit UNUSABLE
  rescue => error
    raise unless error.message.match?(DAMAGED)

    warn "The database is damaged: #{error.message[DAMAGED]}. Restore a backup: bin/orvant restore FILE.zip"
    exit UNUSABLE
  end

  desc "serve", "Set up and run Orvant in the foreground: web server, workers and signposts"
  option :port, type: :numeric, default: PORT, desc: "the next that is free is taken where it is in use"
  option :bind, default: "127.0.0.1", banner: "ADDRESS"
  option :var, banner: "FOLDER", desc: "where the database, pictures and logs are kept"
  option :workers, type: :numeric, default: 1, desc: "how many sweeps run at once"
  option :signposts, type: :numeric, default: 4680, banner: "PORT"
  # @raise [SystemExit] where it cannot run; the message says why
  def serve
    require_relative "../serving/serving"
    keep_in(options[:var])
    unusable("Between 1 and 16 workers run.") unless options[:workers].between?(1, 16)
    Serving.new(Serving::Options.new(
      port: options[:port].to_i,
      bind: options[:bind],
      workers: options[:workers].to_i,
      signposts: options[:signposts].to_i
    )).call
  end

  desc "backup FILE", "Write everything that Orvant keeps into one archive, while it runs"
  option :var, banner: "FOLDER"
  # @raise [SystemExit] with status 2 where it cannot be written
  def backup(file)
    keep_in(options[:var])
    application
    say "#{file}: #{(Backup.write(file) / 1_048_576.0).round(1)} MB"
  end

  desc "restore FILE", "Put what a backup holds in the place of what is there, which is moved aside"
  option :var, banner: "FOLDER"
  # @raise [SystemExit] with status 2 where it is no backup, or Orvant runs; nothing is changed then
  def restore(file)
    keep_in(options[:var])
    require_relative "../../config/environment"
    ActiveRecord::Base.connection_handler.clear_all_connections!
    say "Restored. What was there before is in #{Restore.call(file)}"
    say "Everybody signs in again; sweeps and imports that were under way go on when Orvant is served."
  end

  desc "invite",
    "Print a link, good once and for a day, with which the first owner is made, or somebody takes a new password"
  option :address, default: HERE, desc: "under which Orvant is called"
  option :mail, desc: "whose password is to be made anew"
  option :forget_second_factor, type: :boolean, default: false, desc: "of an account named by --mail that has lost its device"
  option :first, type: :boolean, default: false, desc: "say nothing where there is an owner already"
  option :var, banner: "FOLDER"
  # @raise [SystemExit] with status 2 where there is nobody to invite
  def invite
    keep_in(options[:var])
    application
    return if options[:first] && Person.exists?
    if options[:mail]
      account(options[:mail]).second_factor.turn_off if options[:forget_second_factor]
      return say "A new password is taken at #{Welcome.link(options[:address], Invitation.password(account(options[:mail])).last)}"
    end

    if Person.exists?
      unusable("There is an owner already: sign in and invite others under People, or name one with --mail for a new password.")
    end
    say "Nobody can sign in yet. The first owner is made at #{Welcome.link(options[:address], Invitation.founder.last)}"
  end

  desc "trail [ADDRESS…]",
    "Follow addresses hop by hop and print one trail a line; without addresses, those of standard input, one a line"
  option :hosts, desc: "JSON file that says where host names really are", banner: "FILE"
  option :engine,
    enum: %w[auto http browser],
    default: "auto",
    desc: "auto: the browser looks at pages on which something can run"
  option :explain,
    type: :boolean,
    default: false,
    desc: "say how each hop was decided, which engine looked, for how long, and why it stopped"
  option :visitor, default: "desktop", banner: "desktop|phone|LANGUAGE"
  option :format, enum: %w[text json], default: "json"
  # @raise [SystemExit] with status 2 where the host map, or no address, can be used
  def trail(*addresses)
    if addresses == ["-"] || (addresses.empty? && !$stdin.tty?)
      addresses = $stdin.each_line.map(&:strip).reject(&:empty?)
    end
    unusable("Name at least one address.") if addresses.empty?
    map = options[:hosts] ? Orvant::Net::HostMap.read(read(options[:hosts])) : Orvant::Net::HostMap.new
    ended = TrailPrinter.new(
      map,
      engine: options[:engine],
      visitor: Orvant::Net::Visitor.of(options[:visitor])
    )
      .trails(addresses.uniq)
    in_words = options[:explain] || options[:format] == "text"
    addresses.each do |text|
      puts(in_words ? TrailPrinter.lines(ended[text], explain: options[:explain]) : JSON.generate(Orvant::Export::Masking.masked(ended[text].to_h)))
    end
  end

  desc "tags ADDRESS…", "Open pages in a sealed browser and say what their tags do, one page a line"
  option :signatures, required: true, type: :array, banner: "FILE…", desc: "JSON: one signature, or a list"
  option :settings,
    banner: "FILE",
    desc: "JSON: expected tags, goals, variants, consent, counted events, own hosts"
  option :hosts, desc: "JSON file that says where host names really are", banner: "FILE"
  option :recording,
    type: :array,
    default: [],
    banner: "FILE.har…",
    desc: "pages that a browser of your own has opened and saved, judged alike"
  option :har, banner: "FOLDER", desc: "where a recording of each page is put"
  option :deliver,
    type: :boolean,
    default: false,
    desc: "send signals, once each, to the collection points of your own that the settings name"
  option :format, enum: %w[text json], default: "text"
  # @raise [SystemExit] 0 nothing breaks or skews · 1 something does · 2 unusable input
  def tags(*addresses)
    unusable("Name at least one address, or a recording.") if addresses.empty? && options[:recording].empty?
    addresses.each { |text| Orvant::Address.parse(text) }
    recordings = options[:recording].map { |file| Orvant::Recording.read(read(file)) }
    recordings.flat_map(&:notes).each { |note| warn note }
    printer = watch_printer
    printer.recorded(recordings) { |document| print_watched(document) } if recordings.any?
    printer.tags(addresses) { |document| print_watched(document) } if addresses.any?
    exit(printer.sound? ? 0 : 1)
  end

  desc "rehearse FILE…", "Play rehearsals in a sealed browser, one run a line"
  option :signatures, required: true, type: :array, banner: "FILE…", desc: "JSON: one signature, or a list"
  option :settings,
    banner: "FILE",
    desc: "JSON: expected tags, goals, variants, consent, counted events, own hosts"
  option :hosts, desc: "JSON file that says where host names really are", banner: "FILE"
  option :har, banner: "FOLDER", desc: "where a recording of each run is put"
  option :deliver,
    type: :boolean,
    default: false,
    desc: "send signals, once each, to the collection points of your own that the settings name"
  option :format, enum: %w[text json], default: "text"
  # @raise [SystemExit] 0 nothing breaks or skews · 1 something does · 2 unusable input
  def rehearse(*files)
    unusable("Name at least one rehearsal.") if files.empty?
    printer = watch_printer
    printer.rehearse(files.map { |file| Orvant::Rehearsal.read(read(file)) }) do |document|
      print_watched(document)
    end
    exit(printer.sound? ? 0 : 1)
  end

  desc "explain ROWS.csv", "Give session rows their channels, and say why those in the wrong one stand there"
  option :convention, required: true, banner: "FILE"
  option :links, banner: "FILE", desc: "a list of links, as `check` reads it"
  option :trails, banner: "FILE", desc: "where they lead: the lines that `trail` prints"
  option :dates, enum: Orvant::Traffic::Days::ORDERS, desc: "which comes first, where the file does not tell"
  option :matching, banner: "FILE", desc: "JSON object of field and column, where names do not tell"
  option :unexplained,
    type: :numeric,
    default: 1.0,
    banner: "SHARE",
    desc: "of sessions that may be unexplained, 0 to 1"
  option :format, enum: %w[csv json text], default: "text"
  # @raise [SystemExit] 0 · 1 more is unexplained than the share given · 2 unusable input
  def explain(file)
    read(file, 1)
    convention = Orvant::Convention.read(read(options[:convention]))
    facts = known_links(convention)
    explainer = Orvant::Traffic::Explainer.new(convention, facts) do
      Orvant::Traffic::SessionTable.new(path: file, matching: matching, dates: options[:dates])
    end
    report = ExplainReport.new(explainer, convention, facts)
    report.each(options[:format]) { |line| puts line }
    report.summary.each { |line| warn line }
    exit((report.share > options[:unexplained]) ? 1 : 0)
  end

  desc "sessions FILE…", "Build session rows from access logs, as `explain` and `import` read them"
  option :convention, required: true, banner: "FILE", desc: "names own hosts, roles and click identifiers"
  option :goals, banner: "FILE", desc: "JSON: pages that are conversions, as the settings name them"
  option :host, desc: "of the pages, where the log names none"
  option :format, enum: %w[csv json], default: "csv"
  # @raise [SystemExit] 0 all lines were read · 1 some could not be · 2 unusable input
  def sessions(*files)
    unusable("Name at least one log, or a folder of logs.") if files.empty?
    convention = Orvant::Convention.read(read(options[:convention]))
    goals =
      if options[:goals]
        Orvant::Watching.read(listed_goals(json_of(options[:goals])))
      else
        Orvant::Watching.new
      end
    report = SessionsReport.new(
      Orvant::Traffic::Sessions.new(convention, goals: goals, host: options[:host].to_s),
      files
    )
    report.each(options[:format]) { |line| puts line }
    report.summary.each { |line| warn line }
    exit(report.whole? ? 0 : 1)
  end

  desc "follow-log FILE", "Have a running Orvant read an access log on this machine as it grows"
  option :workspace, required: true, banner: "NAME"
  option :host, default: "", desc: "of the pages, where the log names none"
  option :source, banner: "NAME", desc: "of its rows; the file's path unless named"
  option :end, type: :boolean, default: false, desc: "read it no more; what was read stays"
  option :var, banner: "FOLDER"
  # @raise [SystemExit] 2 unusable input
  def follow_log(file)
    keep_in(options[:var])
    application
    path = File.expand_path(file)
    workspace = Workspace.shown.find_by(name: options[:workspace]) or unusable("There is no workspace “#{options[:workspace]}”.")
    return end_following(workspace, path) if options[:end]

    unusable("#{path} cannot be read here.") unless File.file?(path) && File.readable?(path)
    FollowedLog.find_or_initialize_by(workspace: workspace, path: path)
      .update!(host: options[:host].downcase, source: options[:source] || path)
    say "#{path} is read every #{FollowedLog::EVERY / 60} minutes while Orvant runs."
  end

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

  desc "import FILE", "Import links or session rows into a workspace"
  option :workspace, banner: "NAME", desc: "may be left out where there is one alone"
  option :kind,
    enum: [*Orvant::Inventory::Source::KINDS, "traffic", "logs", "claims", "orders", "touches"],
    default: "links"
  option :source, default: "", desc: "name under which the same source comes again"
  option :network, desc: "whose dialect an export of ads is in"
  option :host, desc: "of a register's paths, or a log's pages, that name none"
  option :dates, enum: Orvant::Traffic::Days::ORDERS, desc: "which comes first, where the file does not tell"
  option :format, enum: %w[text json], default: "text"
  option :server,
    banner: "ADDRESS",
    desc: "of an Orvant that runs elsewhere; without it the file goes into the database here"
  option :key, desc: "made under People; ORVANT_KEY is taken where none is given"
  # @raise [SystemExit] 2 where the file cannot be used
  def import(file)
    if options[:server]
      return said_of(RemoteImport.new(remote).call(
        read(file),
        File.basename(file),
        options.slice("kind", "source", "network", "host", "dates")
      ))
    end

    application
    names = Workspace.shown.order(:name).pluck(:name)
    workspace = Workspace.shown.find_by!(name: Remote.one_of(names, options[:workspace]))
    import = Importing.of(options[:kind]).new(
      workspace,
      read(file),
      filename: File.basename(file),
      kind: options[:kind],
      source: options[:source],
      options: options.slice("network", "host", "dates")
    ).call
    said_of(import.as_document)
  end

  desc "sweep", "Begin a sweep on an Orvant that runs, and wait for its end"
  option :server, default: HERE, banner: "ADDRESS"
  option :key, desc: "made under People; ORVANT_KEY is taken where none is given"
  option :workspace, banner: "NAME", desc: "may be left out where there is one alone"
  option :visitors, type: :array, banner: "desktop phone de …"
  option :format, enum: %w[text json], default: "text"
  # @raise [SystemExit] 0 nothing breaks · 1 something does · 2 it could not be swept
  def sweep
    ended = RemoteSweep.new(remote).call(options[:visitors]) { |line| warn line }
    puts((options[:format] == "json") ? JSON.generate(ended.document) : ended.to_s)
    exit(ended.sound? ? 0 : 1)
  end

  desc "fixes", "Print what is to be done, in order of what it wins back"
  option :server, default: HERE, banner: "ADDRESS"
  option :key, desc: "made under People; ORVANT_KEY is taken where none is given"
  option :workspace, banner: "NAME", desc: "may be left out where there is one alone"
  option :format, enum: %w[csv json], default: "csv"
  # @raise [SystemExit] 2 where they cannot be had
  def fixes
    return puts(JSON.generate(remote.get("/fixes"))) if options[:format] == "json"

    remote.download("/fixes.csv", $stdout)
  end

  desc "export FILE.zip", "Write a whole workspace of an Orvant that runs as one archive of open documents"
  option :server, default: HERE, banner: "ADDRESS"
  option :key, desc: "made under People, for an owner; ORVANT_KEY is taken where none is given"
  option :workspace, banner: "NAME", desc: "may be left out where there is one alone"
  # @raise [SystemExit] 2 where it cannot be had; what was there under that name stays then
  def export(file)
    part = "#{file}.part"
    File.open(part, "wb") { |io| RemoteBundle.new(remote).call(io) }
    File.rename(part, file)
    say "#{file}: #{(File.size(file) / 1_048_576.0).round(1)} MB"
  ensure
    File.delete(part) if part && File.exist?(part)
  end

  desc "checks", "Print the catalogue of checks as Markdown (docs/checks.md)"
  # Prints docs/checks.md, made from the check classes.
  def checks
    require_relative "checks_document"
    puts ChecksDocument.new
  end

  desc "roles", "Print who may do what as Markdown (docs/roles.md)"
  # Prints docs/roles.md, made from the OpenAPI document.
  def roles
    require_relative "roles_document"
    puts RolesDocument.new
  end

  no_commands do
    # Loads what needs the database, once it is there.
    def application
      require_relative "../../config/environment"
      Restore.finish_alone
      Database.hold
    end

    def matching
      options[:matching] ? JSON.parse(read(options[:matching])) : {}
    rescue JSON::ParserError => error
      unusable("The matching is no valid JSON: #{error.message[0, Orvant::Cut::FAILURE]}")
    end

    # Goals may stand alone, or be a part of the settings.
    def listed_goals(document)
      return {"goals" => document} if document.is_a?(Array)

      document.slice("goals")
    end

    def known_links(convention)
      return [] unless options[:links]

      trails =
        if options[:trails]
          read(options[:trails]).each_line.filter_map { |line| trail_of(line) }
            .to_h { |trail| [trail.address, trail] }
        else
          {}
        end
      KnownLinks.of(Orvant::Inventory::LinkList.read(read(options[:links])).sightings, trails, convention)
    end

    def trail_of(line)
      Orvant::Trail.from_h(JSON.parse(line)) unless line.strip.empty?
    rescue JSON::ParserError, KeyError, NoMethodError, ArgumentError, TypeError
      unusable("#{options[:trails]} holds a line that is no trail: #{line[0, Orvant::Cut::QUOTE].scrub}")
    end

    def read(path, most = nil)
      File.binread(path, most)
    rescue SystemCallError => error
      unusable("#{path} cannot be read: #{error.message[/\A[^@]+/].strip}.")
    end

    def watch_printer
      signatures = options[:signatures].flat_map { |file| listed(json_of(file)) }
        .map { |document| Orvant::Signal::Signature.read(document) }
      map = options[:hosts] ? Orvant::Net::HostMap.read(read(options[:hosts])) : Orvant::Net::HostMap.new
      WatchPrinter.new(
        map,
        signatures,
        options[:settings] ? json_of(options[:settings]) : {},
        har: options[:har],
        deliver: options[:deliver]
      )
    end

    def listed(document) = document.is_a?(Array) ? document : [document]

    def json_of(file)
      JSON.parse(read(file))
    rescue JSON::ParserError => error
      unusable("#{file} is no valid JSON: #{error.message[0, Orvant::Cut::FAILURE]}")
    end

    def print_watched(document)
      puts((options[:format] == "json") ? JSON.generate(Orvant::Export::Masking.masked(document)) : WatchPrinter.lines(document))
      $stdout.flush
    end

    def remote = Remote.new(options[:server], options[:key] || ENV["ORVANT_KEY"], options[:workspace])

    def said_of(import)
      return puts(JSON.generate(import)) if options[:format] == "json"

      puts "#{import["added"]} added, #{import["already"]} already there, #{import["rejected"].size} rejected."
      import["rejected"].each { |row| warn "line #{row["line"]}: #{row["reason"]}" }
    end

    def end_following(workspace, path)
      gone = FollowedLog.where(workspace: workspace, path: path).delete_all
      gone.zero? ? unusable("#{path} was not followed.") : say("#{path} is read no more.")
    end

    def keep_in(folder) = (ENV["ORVANT_VAR"] = File.expand_path(folder) if folder)

    def account(mail)
      Person.find_by(mail: mail.strip.downcase) ||
        unusable("There is no account for #{mail}; there are: #{Person.order(:mail).pluck(:mail).join(", ")}.")
    end

    def unusable(message)
      warn message
      exit UNUSABLE
    end
  end
end
