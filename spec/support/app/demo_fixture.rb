# frozen_string_literal: true

# Puts the database of the specs into a known state. The demo, and the demo swept, are made once for all
# processes of a run and then copied, since a sweep takes a minute.
module DemoFixture
  EVERYTHING = {"links" => "all", "pages" => "landing", "rehearsals" => "all", "visitors" => %w[desktop phone]}.freeze

  class << self
    def clear
      tables = ActiveRecord::Base.connection.tables - %w[schema_migrations ar_internal_metadata]
      SpecDatabase.here.clear(tables)
      File.delete(Settings.var("world.json")) if File.exist?(Settings.var("world.json"))
    end

    def loaded
      restore("loaded") { load_demo(port: WorldServer.port, tls: WorldServer.tls_port) }
    end

    def swept
      restore("swept") do
        sweep(loaded, scope: EVERYTHING)
        File.write(Settings.var("asked.json"), JSON.generate(WorldServer.counts))
      end
    end

    # @return [Hash{String => Integer}] by host, what the sweep asked of the outside world of the process that
    #   made it
    def asked = JSON.parse(File.read(Settings.var("asked.json")))

    # Runs a sweep here and now, as the worker would.
    # @return [Sweep]
    def sweep(workspace, **facts)
      sweep = Sweep.begin!(workspace, **facts)
      Delayed::Job.delete_all
      SweepRun.new(sweep).call
      sweep.reload
    end

    private

    # @return [Workspace] whose outside world is that of this process, whoever has made it
    def restore(name, &make)
      clear
      SpecDatabase.here.once(name, &make)
      SpecDatabase.here.bring_back(name)
      Signpost.publish # The redirect server reads a file beside the database.
      load_demo(port: WorldServer.port, tls: WorldServer.tls_port)
    end
  end
end
