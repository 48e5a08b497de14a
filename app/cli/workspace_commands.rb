# frozen_string_literal: true

require_relative "command"
require_relative "remote"
require_relative "remote_bundle"
require_relative "remote_import"
require_relative "remote_sweep"

# What a workspace holds, by its database or over HTTP.
class WorkspaceCommands < Command
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

  no_commands do
    def remote = Remote.new(options[:server], options[:key] || ENV["ORVANT_KEY"], options[:workspace])

    def said_of(import)
      return puts(JSON.generate(import)) if options[:format] == "json"

      puts "#{import["added"]} added, #{import["already"]} already there, #{import["rejected"].size} rejected."
      import["rejected"].each { |row| warn "line #{row["line"]}: #{row["reason"]}" }
    end
  end
end
