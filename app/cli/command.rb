# frozen_string_literal: true

require "json"
require "thor"

# The base of groups of commands. Answers go to standard output, remarks to standard error.
class Command < Thor
  UNUSABLE = 2
  # Where Orvant is served, and looked for, where nothing else is said.
  PORT = Integer(ENV["ORVANT_PORT"] || 4600, exception: false) || 4600
  HERE = "http://127.0.0.1:#{PORT}"

  def self.exit_on_failure? = true

  no_commands do
    # Loads what needs the database, once it is there.
    def application
      require_relative "../../config/environment"
      Restore.finish_alone
      Database.hold
    end

    def read(path, most = nil)
      File.binread(path, most)
    rescue SystemCallError => error
      unusable("#{path} cannot be read: #{error.message[/\A[^@]+/].strip}.")
    end

    def listed(document) = document.is_a?(Array) ? document : [document]

    def json_of(file)
      JSON.parse(read(file))
    rescue JSON::ParserError => error
      unusable("#{file} is no valid JSON: #{error.message[0, Orvant::Cut::FAILURE]}")
    end

    def matching
      options[:matching] ? JSON.parse(read(options[:matching])) : {}
    rescue JSON::ParserError => error
      unusable("The matching is no valid JSON: #{error.message[0, Orvant::Cut::FAILURE]}")
    end

    def keep_in(folder) = (ENV["ORVANT_VAR"] = File.expand_path(folder) if folder)

    def unusable(message)
      warn message
      exit UNUSABLE
    end
  end
end
