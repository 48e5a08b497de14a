# frozen_string_literal: true

module Orvant
  class Convention
    # What differs between two documents, for people: by role, by value, by pair.
    class Comparison
      # area: `role source`, `pairs`, … · what: the rule or value · before, after: in words, nil where there
      # was or is none.
      Difference = Struct.new(:area, :what, :before, :after, keyword_init: true) do
        def to_h = members.to_h { |name| [name.to_s, self[name]] }
      end

      LISTS = %w[own_hosts judged_hosts relay_hosts payment_hosts billed_hosts known_hosts partner_hosts mail_hosts social_hosts search_hosts exempt_kinds own_parameters no_account].freeze
      ITEMS = {
        "pairs" => %w[source medium],
        "identifiers" => %w[parameter source],
        "dialects" => %w[network],
        "rules" => %w[scope role]
      }.freeze

      # @param before [Hash] a document
      # @param after [Hash] a document
      # @return [Array<Difference>]
      def self.of(before, after) = new(before, after).differences

      # @param before [Hash]
      # @param after [Hash]
      def initialize(before, after)
        @before = before
        @after = after
      end

      # @return [Array<Difference>]
      def differences
        roles +
          items +
          channels +
          LISTS.flat_map { |name| list(name) } +
          plain("slow_ms") +
          plain("personal_data")
      end

      private

      def difference(area, what, before, after)
        Difference.new(area: area, what: what, before: before && words(before), after: after && words(after))
      end

      def words(value)
        case value
        when Hash then value.map { |key, one| "#{key} #{words(one)}" }.join(", ")
        when Array then value.map { |one| words(one) }.join(", ")
        else value.to_s
        end
      end

      def both(name, key)
        [@before, @after].map do |document|
          document.fetch(name, []).to_h { |one| [key.map { |part| one[part] }, one] }
        end
      end

      def roles
        before, after = both("roles", ["role"])
        (before.keys | after.keys).flat_map do |key|
          area = "role #{key.first}"
          unless before[key] && after[key]
            next [difference(area, "the role", before[key]&.fetch("carriers"), after[key]&.fetch("carriers"))]
          end

          role(area, before[key], after[key])
        end
      end

      def role(area, before, after)
        fields = (before.keys | after.keys) - %w[role vocabulary]
        changed = fields.reject { |field| before[field] == after[field] }
          .map { |field| difference(area, field, before[field], after[field]) }
        changed + vocabulary(area, before["vocabulary"] || {}, after["vocabulary"] || {})
      end

      def vocabulary(area, before, after)
        closed = [before, after].map { |one| one.fetch("closed", false) ? "closed" : "open" }
        old, new = [before, after].map do |one|
          one.fetch("values", []).to_h { |value| [value["value"], value.except("value")] }
        end
        found = (closed.uniq.size == 1) ? [] : [difference(area, "vocabulary", *closed)]
        found + (old.keys | new.keys).reject { |value| old[value] == new[value] }
          .map { |value|
            difference(
              area,
              "value “#{value}”",
              old[value] && stated(old[value]),
              new[value] && stated(new[value])
            )
          }
      end

      def stated(value) = value.empty? ? "permitted" : value

      def items
        ITEMS.flat_map do |name, key|
          before, after = both(name, key)
          (before.keys | after.keys).reject { |one| before[one] == after[one] }
            .map { |one|
              difference(
                name,
                words(key.zip(one).to_h.compact),
                before[one] && rest(before[one], key),
                after[one] && rest(after[one], key)
              )
            }
        end
      end

      def rest(item, key) = item.except(*key).then { |left| left.empty? ? "permitted" : left }

      def channels
        before, after = [@before, @after].map { |document| document.fetch("channels", []) }
        return [] if before == after

        rules = ->(list) { list.map.with_index(1) { |rule, number| [number, rule] }.to_h }
        old, new = rules.call(before), rules.call(after)
        (old.keys | new.keys).reject { |number| old[number] == new[number] }
          .map { |number| difference("channels", "rule #{number}", old[number], new[number]) }
      end

      def list(name)
        before, after = [@before, @after].map { |document| document.fetch(name, []) }
        (before - after).map { |one| difference(name, one, "listed", nil) } +
          (after - before).map { |one| difference(name, one, nil, "listed") }
      end

      def plain(name)
        (@before[name] == @after[name]) ? [] : [difference("workspace", name, @before[name], @after[name])]
      end
    end
  end
end
