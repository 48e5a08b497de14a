# frozen_string_literal: true

require "json"
require "thor"
require_relative "check_report"

# What a person or a pipeline can do without the screens. Answers go to standard output, remarks to standard error.
class Command < Thor
  UNUSABLE = 2

  def self.exit_on_failure? = true

  desc "trail ADDRESS…", "Follow addresses hop by hop and print one trail a line"
  option :hosts, desc: "JSON file that says where host names really are", banner: "FILE"
  option :format, enum: %w[text json], default: "json"
  # @raise [SystemExit] with status 2 where the host map cannot be used
  def trail(*addresses)
    unusable("Name at least one address.") if addresses.empty?
    map = options[:hosts] ? Orvant::Net::HostMap.read(read(options[:hosts])) : Orvant::Net::HostMap.new
    door = Orvant::Net::Door.new(guard: Orvant::Net::Guard.new(host_map: map))
    ended = {}
    Orvant::Trail::Follower.new(door).follow_all(addresses.uniq.method(:shift)) { |text, trail| ended[text] = Orvant::Page::Landing.judge(trail) }
    addresses.each { |text| puts((options[:format] == "text") ? trail_text(ended[text]) : JSON.generate(ended[text].to_h)) }
  rescue Orvant::Error => error
    unusable(error.message)
  end

  desc "check FILE.csv --convention FILE", "Judge a list of links by a convention, without server or database"
  option :convention, required: true, banner: "FILE"
  option :format, enum: %w[text json csv], default: "text"
  # @raise [SystemExit] 0 clean or untidy only · 1 something breaks or skews · 2 unusable input
  def check(file)
    convention = Orvant::Convention.read(read(options[:convention]))
    report = CheckReport.new(Orvant::Inventory::LinkList.read(read(file)), convention)
    puts report.public_send(options[:format])
    report.remarks.each { |remark| warn remark }
    exit(report.sound? ? 0 : 1)
  rescue Orvant::Error => error
    unusable(error.message)
  end

  desc "import FILE", "Import links or session rows into a workspace"
  option :workspace, default: "skerry-line", banner: "NAME"
  option :kind, enum: %w[links traffic], default: "links"
  option :format, enum: %w[text json], default: "text"
  # @raise [SystemExit] 2 where the file cannot be used
  def import(file)
    require_relative "../../config/environment"
    workspace = Workspace.find_by(name: options[:workspace]) or unusable("There is no workspace #{options[:workspace]}; there are: #{Workspace.pluck(:name).join(", ")}.")
    import = Importing.of(options[:kind]).new(workspace, read(file), filename: File.basename(file)).call
    puts((options[:format] == "json") ? JSON.generate(import.as_document) : "#{import.added} added, #{import.already} already there, #{import.rejected_count} rejected.")
    import.rejected.each { |row| warn "line #{row["line"]}: #{row["reason"]}" } if options[:format] == "text"
  rescue Orvant::Error => error
    unusable(error.message)
  end

  desc "checks", "Print the catalogue of checks as Markdown (docs/checks.md)"
  # Prints docs/checks.md, made from the check classes.
  def checks
    require_relative "checks_document"
    puts ChecksDocument.new
  end

  no_commands do
    def read(path)
      File.binread(path)
    rescue SystemCallError => error
      unusable("#{path} cannot be read: #{error.message[/\A[^@]+/].strip}.")
    end

    def unusable(message)
      warn message
      exit UNUSABLE
    end

    def trail_text(trail)
      lines = trail.hops.map.with_index(1) { |hop, number| "  #{number}. #{hop.status || "---"}  #{hop.address}#{fates_text(hop)}" }
      ["#{trail.outcome}  #{trail.final_address}", *lines, trail.reason && "  #{trail.reason}"].compact
    end

    def fates_text(hop)
      changed = hop.params.reject { |fate| fate.fate == "kept" }
      changed.any? ? "\n       " + changed.map { |fate| "#{fate.fate} #{fate.name} (#{fate.before.inspect} to #{fate.after.inspect})" }.join("\n       ") : ""
    end
  end
end
