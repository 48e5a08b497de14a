# frozen_string_literal: true

require_relative "command"
require_relative "trail_printer"
require_relative "watch_printer"

# What links and pages do, looked at from here without a server or a database.
class LookCommands < Command
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

  no_commands do
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

    def print_watched(document)
      puts((options[:format] == "json") ? JSON.generate(Orvant::Export::Masking.masked(document)) : WatchPrinter.lines(document))
      $stdout.flush
    end

    # Goals may stand alone, or be a part of the settings.
    def listed_goals(document)
      return {"goals" => document} if document.is_a?(Array)

      document.slice("goals")
    end
  end
end
