# frozen_string_literal: true

module Orvant
  class Rehearsal
    # A run as a score: what was expected and what was heard, note by note. Each expectation is judged at its
    # step. Checks and screens read it, so that they cannot differ.
    class Score
      # One note. tag · event · step · at: milliseconds, nil where nothing was heard · state: `heard`
      # (expected and heard), `absent` (expected and never heard), `elsewhere` (heard, but expected in another
      # step or from another page), `awaited` (expected here, and heard elsewhere), `again` (more than
      # expected), `unexpected` (a conversion that nobody speaks of, or a signal where none is expected) or
      # `overheard`.
      Note = Struct.new(:tag, :event, :step, :at, :state, keyword_init: true) do
        # @return [Hash{String => Object}] for JSON
        def to_h = members.to_h { |name| [name.to_s, self[name]] }
      end
      # One expectation with what became of it. wish: Hash as the run has it · heard: signals that meet it ·
      # missing: how many are not there · over: signals that are too many in its step.
      Met = Struct.new(:wish, :heard, :missing, :over, keyword_init: true) do
        def tag = wish["tag"]

        def event = wish["event"]

        def step = wish["step"]

        def times = wish["times"]
      end

      # @param run [Run]
      def initialize(run)
        @run = run
        @taken = {}.compare_by_identity
        @met = run.expectations.map { |wish| meet(wish) }
        displace
      end

      # @return [Array<Met>] every expectation
      attr_reader :met

      # @return [Array<Met>] those whose signal never left, or too seldom, and not elsewhere either
      def absent = met.select { |one| one.missing.positive? && !unreadable?(one) }

      # @return [Array<Array(Met, Signal)>] signals that left from another step or page than expected
      def misplaced = @displaced.map(&:reverse)

      # @return [Array<Array(Met, Array<Signal>)>] what left more often than expected, with all signals of
      #   each
      def repeated
        @repeated ||= met.group_by { |one| [one.tag, one.event] }.values.flat_map { |ones| too_often(ones) }
      end

      # @return [Array<Signal>] conversions that nobody speaks of, and whatever left where none is expected
      def extra
        @extra ||= @run.signals.select do |signal|
          (signal.conversion? || unwanted.include?(signal) || alone.include?(signal.step)) &&
            free?(signal) &&
            !surplus.include?(signal)
        end
      end

      # @return [Array<Array(Met, Signal, Array<String>)>] conversions whose value, currency or order number
      #   is not as expected, with sentences
      def wrong_values
        met.flat_map do |one|
          one.heard.filter_map do |signal|
            faults(wanted(one), signal).then { |said| [one, signal, said] if said.any? }
          end
        end
      end

      # @return [Array<Array(Signal, Signal)>] conversions that give one order number to two values
      def reused_orders
        ordered = @run.signals.select { |signal| signal.conversion? && !signal.values["order"].to_s.empty? }
        ordered.group_by { |signal|
          [signal.tag, signal.event, signal.values["order"]]
        }.values.filter_map do |same|
          other = same.find { |signal| signal.values["value"] != same.first.values["value"] }
          [same.first, other] if other
        end
      end

      # What fields, cookies and storage hold otherwise than they should. wanted: true for anything at all ·
      # found: nil for nothing.
      Holding = Struct.new(:step, :kind, :name, :role, :wanted, :found, keyword_init: true)

      # @return [Array<Holding>] those that are not as expected; what the landing does not say is expected
      #   nowhere
      def holding_otherwise
        @run.steps.flat_map do |step|
          step["holds"].to_a.select { |one| one.key?("wanted") }
            .map { |one| Holding.new(step: step["number"], **one.transform_keys(&:to_sym)) }
            .reject { |one| (one.wanted == true) ? !one.found.to_s.empty? : one.found == one.wanted }
        end
      end

      # @return [Array<Array(Signal, Signal)>] the last signal before a tag took its visitor for another one
      #   on another host, and the first after it
      def visitors_lost
        @run.signals.reject { |signal| signal.values["visitor"].to_s.empty? }.group_by(&:tag).values.flat_map do |same|
          same.sort_by(&:at).each_cons(2).select do |one, other|
            one.values["visitor"] != other.values["visitor"] &&
              host(one) != host(other) &&
              !opened?(other.step)
          end
        end
      end

      # @return [Array<Note>] by step
      def notes
        (silent_notes + @run.signals.map { |signal| note(signal) }).sort_by do |note|
          [note.step.to_i, note.at || 0]
        end
      end

      # @param signal [Signal] a conversion
      # @return [Array<String>] roles in which it does not carry what the landing brought; only those that its
      #   tag can say
      def lost(signal)
        (@run.roles_of(signal.tag) & Run::ATTRIBUTION).select do |role|
          @run.landing[role] && signal.values[role] != @run.landing[role]
        end
      end

      # @return [Hash{String => Object}] for JSON: notes, and what each conversion carries of the landing
      def to_h
        {"notes" => notes.map(&:to_h),
         "lineage" => @run.signals.select(&:conversion?)
           .map { |one|
             {
               "event" => one.event,
               "step" => one.step,
               "at" => one.at,
               "values" => one.values.slice(*Run::ATTRIBUTION),
               "lost" => lost(one)
             }
           }}
      end

      private

      def meet(wish)
        here = @run.heard(wish["tag"], wish["event"])
          .select { |signal| signal.step == wish["step"] && from?(wish, signal) }
        heard = here.first(wish["times"])
        heard.each { |signal| @taken[signal] = "heard" }
        Met.new(wish: wish, heard: heard, missing: wish["times"] - heard.size, over: here.drop(wish["times"]))
      end

      def from?(wish, signal)
        wish["page"].nil? || Watching.on?(wish["page"], Address.new(signal.page.to_s).page)
      end

      # What is missing here and left from elsewhere is in the wrong place, and neither absent there nor extra
      # here.
      def displace
        @displaced = []
        met.select { |one| one.missing.positive? }.each do |one|
          @run.heard(one.tag, one.event).select { |signal| free?(signal) }.first(one.missing).each do |signal|
            @taken[signal] = "elsewhere"
            @displaced << [signal, one]
            one.missing -= 1
          end
        end
      end

      def host(signal) = Address.new(signal.page.to_s).host

      # Whoever enters an address begins anew.
      def opened?(number)
        @run.steps.find { |step| step["number"] == number }.to_h["does"].to_s.start_with?("open ")
      end

      def free?(signal) = !@taken.key?(signal)

      # One conversion that was heard already.
      def again?(signal)
        signal.conversion? && @taken.any? { |other, _| other.conversion? && other.key == signal.key }
      end

      def unreadable?(one)
        @run.signals.any? { |signal| signal.tag == one.tag && signal.unreadable? && signal.step == one.step }
      end

      # Of one event: too many in a step, and the same conversion once more in any.
      def too_often(ones)
        over = ones.select { |one| one.times.positive? }.flat_map(&:over)
          .reject { |signal| signal.conversion? && !again?(signal) }
        same = @run.heard(ones.first.tag, ones.first.event)
          .select { |signal| free?(signal) ? again?(signal) : reused?(signal, ones) }
        (over | same).group_by { |signal| signal.conversion? ? signal.key : signal.step }
          .map { |_, signals|
            [ones.find { |one| one.times.positive? } || ones.first, with_first(ones, signals)]
          }
      end

      # An order that was expected, under the number of an earlier one. With another value it is wrong in
      # another way.
      def reused?(signal, ones)
        return false if !signal.conversion? || signal.values["order"].to_s.empty? || @taken[signal] != "heard"

        ones.flat_map(&:heard).any? do |other|
          other.step < signal.step &&
            other.key == signal.key &&
            other.values["value"] == signal.values["value"]
        end
      end

      def with_first(ones, signals)
        first = ones.flat_map(&:heard).select do |signal|
          signal.conversion? ? signal.key == signals.first.key : signal.step == signals.first.step
        end
        (first + signals).uniq(&:object_id).sort_by(&:at)
      end

      def unwanted
        @unwanted ||= met.select { |one| one.times.zero? }.flat_map(&:over).to_set.compare_by_identity
      end

      # Steps in which nothing else may leave.
      def alone = @alone ||= @run.steps.select { |step| step["only"] }.map { |step| step["number"] }

      def surplus
        @surplus ||= repeated.flat_map { |_, signals|
          signals.select { |signal| free?(signal) }
        }.to_set.compare_by_identity
      end

      # What the page showed stands in its step; where it showed nothing, anything will do.
      def wanted(one)
        shown = @run.steps.find { |step| step["number"] == one.step }.to_h["shown"].to_h
        one.wish["values"].to_h.to_h do |field, said|
          [field, said.is_a?(Hash) ? shown.fetch(field, true) : said]
        end
      end

      def faults(wanted, signal)
        wanted.filter_map do |field, expected|
          said = signal.values[field].to_s
          next "it has no #{field}" if said.empty?

          "#{field} is “#{said}” and not “#{expected}”" unless expected == true || same?(said, expected)
        end
      end

      # Amounts are the same however many decimals are written.
      def same?(said, expected)
        one, other = [said, expected.to_s].map { |text| amount(text) }
        (one && other) ? (one - other).abs < 0.005 : said == expected.to_s
      end

      # A page shows an amount with its currency, as its language writes it.
      def amount(text)
        Float(text, exception: false) || Inventory::Amount.cents(text).to_f / 100
      rescue ArgumentError
        nil
      end

      def silent_notes
        met.flat_map do |one|
          moved = @displaced.count { |_, displaced| displaced.equal?(one) }
          [*Array.new(one.missing) { "absent" }, *Array.new(moved) { "awaited" }].map do |state|
            Note.new(tag: one.tag, event: one.event, step: one.step, state: state)
          end
        end
      end

      def note(signal)
        Note.new(tag: signal.tag, event: signal.event, step: signal.step, at: signal.at, state: state(signal))
      end

      def state(signal)
        return @taken[signal] unless free?(signal)
        return "again" if surplus.include?(signal)

        extra.include?(signal) ? "unexpected" : "overheard"
      end
    end
  end
end
