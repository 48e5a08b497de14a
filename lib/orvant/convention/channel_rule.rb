# frozen_string_literal: true

module Orvant
  class Convention
    # One channel rule: every condition must hold.
    class ChannelRule
      attr_reader :channel, :number

      # @param document [Hash] channel, paid, when
      # @param number [Integer] its place in the order, from 1
      def initialize(document, number)
        @channel = document["channel"]
        @paid = document.fetch("paid", false)
        @conditions = document["when"]
        @number = number
      end

      def paid? = @paid

      # @param visit [Hash{String => String}]
      # @return [Boolean]
      def match?(visit) = @conditions.all? { |condition| holds?(condition, visit) }

      # @param field [String]
      # @return [Boolean] whether it asks for certain values of the field, and not only whether there is any
      def names?(field)
        @conditions.any? { |condition| condition["field"] == field && !condition.key?("empty") }
      end

      # @param visit [Hash{String => String}]
      # @return [Float] how nearly the rule matches; rules that only ask for absence are near to nothing
      def closeness(visit)
        telling = @conditions.reject { |condition| condition["empty"] }
        return 0.0 if telling.empty?

        telling.sum { |condition| nearness(condition, visit) } / telling.size
      end

      # @param visit [Hash{String => String}]
      # @return [String, nil] the first condition that does not hold, in words
      def failing(visit)
        condition = @conditions.find { |one| !holds?(one, visit) }
        condition && in_words(condition)
      end

      # @return [String] the rule in words
      def to_s
        @conditions.empty? ? "always" : @conditions.map { |condition| in_words(condition) }.join(" and ")
      end

      private

      def holds?(condition, visit)
        text = visit[condition["field"]].to_s
        return text.empty? == condition["empty"] if condition.key?("empty")
        return condition["is"].include?(text) if condition["is"]
        return condition["starts"].any? { |start| text.start_with?(start) } if condition["starts"]

        condition["contains"].any? { |part| text.include?(part) }
      end

      def nearness(condition, visit)
        return 1.0 if holds?(condition, visit)

        text = visit[condition["field"]].to_s
        wanted = condition["is"] || condition["starts"] || condition["contains"] || []
        return 0.0 if text.empty? || wanted.empty?

        wanted.map { |other| likeness(text, other) }.max
      end

      # Shared pairs of letters, after folding (Dice's coefficient): enough to say which rule a value was
      # meant for.
      def likeness(one, other)
        a, b = [one, other].map { |text| text.downcase(:fold).each_char.each_cons(2).to_a }
        return 0.0 if a.empty? || b.empty?

        2.0 * (a & b).size / (a.uniq.size + b.uniq.size)
      end

      def in_words(condition)
        field = condition["field"]
        return "#{field} is #{condition["empty"] ? "empty" : "not empty"}" if condition.key?("empty")

        verb, values = condition.find { |key, _| key != "field" }
        "#{field} #{verb} #{values.first(6).map { |value| "“#{value}”" }.join(" or ")}#{" …" if values.size > 6}"
      end
    end
  end
end
