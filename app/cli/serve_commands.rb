# frozen_string_literal: true

require_relative "command"

# Orvant itself: run it, keep it, let people in.
class ServeCommands < Command
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

  no_commands do
    def account(mail)
      Person.find_by(mail: mail.strip.downcase) ||
        unusable("There is no account for #{mail}; there are: #{Person.order(:mail).pluck(:mail).join(", ")}.")
    end
  end
end
