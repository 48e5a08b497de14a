# frozen_string_literal: true

require_relative "command"
require_relative "explain_report"
require_relative "known_links"
require_relative "sessions_report"

# Session rows: made of logs, and explained.
class TrafficCommands < Command
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
    explainer = Orvant::Checks::Traffic::Explainer.new(convention, facts) do
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

  no_commands do
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

    def end_following(workspace, path)
      gone = FollowedLog.where(workspace: workspace, path: path).delete_all
      gone.zero? ? unusable("#{path} was not followed.") : say("#{path} is read no more.")
    end
  end
end
