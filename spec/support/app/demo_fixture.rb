# frozen_string_literal: true

# Puts the database of the specs into a known state. The swept demo is made once and then copied, since a
# sweep takes half a minute.
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
        sweep(load_demo(port: WorldServer.port, tls: WorldServer.tls_port), scope: EVERYTHING)
      end
    end

    # Runs a sweep here and now, as the worker would.
    # @return [Sweep]
    def sweep(workspace, **facts)
      sweep = Sweep.begin!(workspace, **facts)
      Delayed::Job.delete_all
      SweepRun.new(sweep).call
      sweep.reload
    end

    private

    def restore(name)
      clear
      if kept.include?(name)
        SpecDatabase.here.bring_back(name)
        return Signpost.publish # The redirect server reads a file beside the database.
      end

      yield
      SpecDatabase.here.keep(name)
      kept << name
    end

    def kept = @kept ||= []
  end
end
