# frozen_string_literal: true

require_relative "document_commands"
require_relative "link_commands"
require_relative "look_commands"
require_relative "serve_commands"
require_relative "traffic_commands"
require_relative "workspace_commands"

# What a person or a pipeline can do without the screens: finds the group of a command.
class CommandLine
  GROUPS = {
    "Orvant" => ServeCommands,
    "Links and pages" => LookCommands,
    "Lists of links" => LinkCommands,
    "Traffic" => TrafficCommands,
    "A workspace" => WorkspaceCommands,
    "Documents" => DocumentCommands
  }.freeze
  # What SQLite says of a file that it cannot read.
  DAMAGED = /file is not a database|database disk image is malformed/
  HELP = %w[help --help -h].freeze

  class << self
    # @param arguments [Array<String>] the name of a command, and what is said to it
    # @return [void]
    # @raise [SystemExit] what cannot be used is said in a sentence
    def start(arguments = ARGV)
      name, *rest = arguments
      return help(rest.first) if name.nil? || HELP.include?(name)
      return help(name) if rest.intersect?(HELP)

      group(name).start(arguments)
    rescue Orvant::Error => error
      give_up(error.message)
    rescue => error
      raise unless error.message.match?(DAMAGED)

      give_up("The database is damaged: #{error.message[DAMAGED]}. Restore a backup: bin/orvant restore FILE.zip")
    end

    private

    def help(name)
      return group(name).start(["help", name]) if name

      GROUPS.each { |title, group| print_group(title, group) }
      puts "More about one: #{File.basename($PROGRAM_NAME)} help COMMAND"
    end

    def print_group(title, group)
      rows = group.printable_commands(false, false)
      puts "#{title}:"
      group.new.shell.print_table(rows, indent: 2, truncate: true)
      puts
    end

    def group(name)
      GROUPS.values.find { |group| group.commands.key?(name.tr("-", "_")) } ||
        give_up("There is no command “#{name}”; there are: #{names.join(", ")}.")
    end

    def names
      GROUPS.values.flat_map { |group| group.commands.keys }.map { |name| name.tr("_", "-") }
    end

    def give_up(message)
      warn message
      exit Command::UNUSABLE
    end
  end
end
