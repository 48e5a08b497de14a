# frozen_string_literal: true

require "thor"

# What can be done with a convention's document alone.
class ConventionCommand < Thor
  UNUSABLE = 2

  def self.exit_on_failure? = true

  # Thor would print the name of the subcommand twice.
  def self.banner(command, *) = "#{basename} convention #{command.usage}"

  desc "validate FILE", "Name path and reason of each fault"
  # @raise [SystemExit] 0 the convention can be used · 1 it has faults · 2 the file cannot be read
  def validate(file)
    convention = Orvant::Convention.read(File.binread(file))
    puts "#{convention.name}: #{convention.roles.size} roles, #{convention.pairs.size} pairs, #{convention.channel_rules.rules.size} channel rules. It can be used."
  rescue SystemCallError => error
    warn "#{file} cannot be read: #{error.message[/\A[^@]+/].strip}."
    exit UNUSABLE
  rescue Orvant::Error => error
    warn error.message
    exit 1
  end
end
