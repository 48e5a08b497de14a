# frozen_string_literal: true

module Orvant
  class Rehearsal
    # A run as a score: what was expected and what was heard, note by note. Checks and screens read it, so that they cannot differ.
    class Score
      # One note. tag · event · step · at: milliseconds, nil where nothing was heard · state: `heard` (expected and heard), `absent` (expected
      # and never heard), `elsewhere` (heard, but expected in another step), `awaited` (expected here, and heard in another step), `again` (one
      # conversion, heard once more), `unexpected` (a conversion that nobody speaks of) or `overheard`.
      Note = Struct.new(:tag, :event, :step, :at, :state, keyword_init: true) do
        # @return [Hash{String => Object}] for JSON
        def to_h = members.to_h { |name| [name.to_s, self[name]] }
      end
      # What all steps together expect of one event. times: in all · step: the first that speaks of it.
      Wanted = Struct.new(:tag, :event, :times, :step, keyword_init: true)

      # @param run [Run]
      def initialize(run)
        @run = run
      end

      # @return [Array<Wanted>] one step wants the signal, a later reload wants no more of it
      def wanted
        @wanted ||= @run.expectations.group_by { |one| one.values_at("tag", "event") }
          .map { |(tag, event), ones| Wanted.new(tag: tag, event: event, times: ones.sum { |one| one["times"] }, step: ones.first["step"]) }
      end

      # @return [Array<Wanted>] those that were never heard
      def absent = wanted.select { |one| one.times.positive? && @run.heard(one.tag, one.event).empty? }

      # @return [Array<Array(Wanted, Array<Signal>)>] conversions that left more often than wanted, with all signals of each
      def repeated
        @repeated ||= wanted.flat_map do |one|
          same = @run.heard(one.tag, one.event).select(&:conversion?).group_by(&:key).values
          same.select { |signals| signals.size > [one.times, 1].max }.map { |signals| [one, signals] }
        end
      end

      # @return [Array<Note>] by step
      def notes = (silent_notes + @run.signals.map { |signal| note(signal) }).sort_by { |note| [note.step.to_i, note.at || 0] }

      # @param signal [Signal] a conversion
      # @return [Array<String>] roles in which it does not carry what the landing brought
      def lost(signal) = Run::ATTRIBUTION.select { |role| @run.landing[role] && signal.values[role] != @run.landing[role] }

      # @return [Hash{String => Object}] for JSON: notes, and what each conversion carries of the landing
      def to_h
        {"notes" => notes.map(&:to_h),
         "lineage" => @run.signals.select(&:conversion?).map { |one| {"event" => one.event, "step" => one.step, "at" => one.at, "values" => one.values.slice(*Run::ATTRIBUTION), "lost" => lost(one)} }}
      end

      private

      def silent_notes
        @run.expectations.select { |one| one["times"].positive? }.flat_map do |one|
          state = @run.heard(one["tag"], one["event"]).empty? ? "absent" : "awaited"
          Array.new(missing(one)) { Note.new(tag: one["tag"], event: one["event"], step: one["step"], state: state) }
        end
      end

      def note(signal) = Note.new(tag: signal.tag, event: signal.event, step: signal.step, at: signal.at, state: state(signal))

      def state(signal)
        return "again" if surplus.include?(signal)

        spoken = @run.expectations.select { |one| one["tag"] == signal.tag && one["event"] == signal.event }
        return "heard" if spoken.any? { |one| one["step"] == signal.step && one["times"].positive? }
        return "elsewhere" if spoken.any? { |one| missing(one).positive? }

        signal.conversion? ? "unexpected" : "overheard"
      end

      # @return [Integer] how many fewer its step has heard than it waits for
      def missing(wish) = [wish["times"] - @run.heard(wish["tag"], wish["event"]).count { |signal| signal.step == wish["step"] }, 0].max

      def surplus = @surplus ||= repeated.flat_map { |one, signals| signals.drop([one.times, 1].max) }.to_set.compare_by_identity
    end
  end
end
