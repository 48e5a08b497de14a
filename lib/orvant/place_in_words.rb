# frozen_string_literal: true

module Orvant
  # Says in words where something stands in a document that people write.
  module PlaceInWords
    ORDINALS = %w[first second third fourth fifth sixth seventh eighth ninth tenth].freeze
    # What one item of a list is called; another list's items are called by its name.
    ITEMS = {
      "channels" => "channel rule",
      "when" => "condition",
      "roles" => "role",
      "rules" => "rule for a scope",
      "pairs" => "permitted pair",
      "dialects" => "network",
      "tokens" => "token",
      "segments" => "segment",
      "values" => "value",
      "carriers" => "parameter",
      "identifiers" => "identifier",
      "steps" => "step",
      "expect" => "expectation",
      "own_hosts" => "own host",
      "relay_hosts" => "relay host",
      "events" => "event"
    }.freeze

    class << self
      # @param pointer [String] a JSON pointer (RFC 6901), `/channels/0/when/1`
      # @param document [Object] in which it points; an item that names itself is called so
      # @return [String, nil] `the second condition of the first channel rule (“Email”)`; nil where it points
      #   at nothing in a list
      def of(pointer, document = nil)
        parts = pointer.split("/").drop(1).map { |part| part.gsub("~1", "/").gsub("~0", "~") }
        found = items(parts, document)
        return if found.empty?

        found.reverse.join(" of ").prepend(rest(parts))
      end

      private

      def items(parts, document)
        parts.each_with_index.filter_map do |part, at|
          next unless at.positive? && part.match?(/\A\d+\z/)

          "the #{ordinal(part.to_i)} #{ITEMS.fetch(parts[at - 1], "item of “#{parts[at - 1]}”")}#{named(parts.first(at + 1), document)}"
        end
      end

      def rest(parts)
        last = parts.last
        last.match?(/\A\d+\z/) ? "" : "“#{last}” of "
      end

      def ordinal(index) = ORDINALS[index] || "#{index + 1}th"

      # By what an item of a document is called there.
      def named(parts, document)
        item = parts.reduce(document) do |inner, part|
          inner.is_a?(Array) ? inner[part.to_i] : (inner[part] if inner.is_a?(Hash))
        end
        name = item.is_a?(Hash) && item.values_at("role", "channel", "network", "name").grep(String).first
        name ? " (“#{name[0, Cut::WORD]}”)" : ""
      end
    end
  end
end
