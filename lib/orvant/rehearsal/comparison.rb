# frozen_string_literal: true

module Orvant
  class Rehearsal
    # What two runs of a rehearsal differ in, step by step. What is another in every run by its nature (a
    # moment, the number of an order) is no difference.
    class Comparison
      # step: its number · does: what it does · changes: Array<String>, each a sentence.
      Step = Struct.new(:step, :does, :changes, keyword_init: true) do
        def to_h = members.to_h { |name| [name.to_s, self[name]] }
      end

      # Fields of a signal that are another in every run; whether there is one counts.
      PASSING = %w[order visitor session].freeze

      # @param before [Run]
      # @param after [Run]
      # @param names [Hash{String => String}] what tags are called
      def initialize(before, after, names: {})
        @before = before
        @after = after
        @names = names
      end

      # @return [Array<Step>] those that differ
      def steps
        numbers = [@before, @after].flat_map { |run| run.steps.map { |step| step["number"] } }.uniq.sort
        numbers.filter_map do |number|
          one, other = step(@before, number), step(@after, number)
          changes = changes(one, other, number)
          Step.new(step: number, does: (other || one)["does"], changes: changes) if changes.any?
        end
      end

      private

      def step(run, number) = run.steps.find { |one| one["number"] == number }

      def changes(one, other, number)
        return ["It was not reached before."] unless one
        return ["It is not reached any more."] unless other

        done(one, other) + page_reached(one, other) + signals(number) + holdings(one, other)
      end

      def done(one, other)
        if one["does"] != other["does"]
          return ["It says another thing now: #{other["does"]}; it was: #{one["does"]}."]
        end
        return [] if one["error"].nil? == other["error"].nil?

        [other["error"] ? "It cannot be done any more: #{other["error"]}" : "It can be done again; it failed with: #{one["error"]}"]
      end

      def page_reached(one, other)
        pages = [one, other].map { |step| step["page"].to_s.sub(/[?#].*/m, "") }
        (pages.uniq.size == 1) ? [] : ["It ends on #{pages.last}, and ended on #{pages.first}."]
      end

      def signals(number)
        heard = [@before, @after].map do |run|
          run.signals.select { |one| one.step == number }.group_by { |one| [one.tag, one.event.to_s] }
        end
        (heard.first.keys | heard.last.keys).flat_map do |key|
          signal(key, *heard.map { |all| all.fetch(key, []) })
        end
      end

      def signal((tag, event), before, after)
        name = "#{@names.fetch(tag, tag)} “#{event}”"
        return ["#{name} is not heard any more."] if after.empty?
        return ["#{name} is heard now."] if before.empty?

        times = ("#{name} is heard #{Words.counted(after.size, "time")}, and was #{Words.counted(before.size, "time")}." if before.size != after.size)
        [times, *values(name, before.first, after.first)].compact
      end

      def values(name, before, after)
        (before.values.keys | after.values.keys).filter_map do |field|
          was, is = [before, after].map { |one| one.values[field].to_s }
          next if PASSING.include?(field) && was.empty? == is.empty?

          "#{name} says #{field} #{said(is)}, and said #{said(was)}." if was != is
        end
      end

      def holdings(one, other)
        kept = [one, other].map do |step|
          step["holds"].to_a.to_h { |held| [held.values_at("kind", "name"), held["found"].to_s] }
        end
        (kept.first.keys & kept.last.keys).filter_map do |key|
          was, is = kept.map { |all| all[key] }
          "The #{key.join(" ")} holds #{said(is)}, and held #{said(was)}." if was != is
        end
      end

      def said(value) = value.empty? ? "nothing" : "“#{value[0, Cut::LINE]}”"
    end
  end
end
