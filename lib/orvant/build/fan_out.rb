# frozen_string_literal: true

module Orvant
  module Build
    # Spreads one landing address and campaign over several places, one row each, so that each can be told
    # apart later.
    class FanOut
      # One place to link from. kind · source · medium · label: tells two places of one pair apart, "" where
      # there is one.
      Place = Struct.new(:kind, :source, :medium, :label, keyword_init: true)

      # @param convention [Convention]
      def initialize(convention)
        @convention = convention
      end

      # @return [Array<Place>] those that the permitted pairs offer: one for each pair and kind of link
      def places
        @convention.pairs.flat_map do |pair|
          (pair.kinds.empty? ? ["other"] : pair.kinds).map do |kind|
            Place.new(kind: kind, source: pair.source, medium: pair.medium, label: "")
          end
        end
      end

      # @param landing [String]
      # @param values [Hash{String => String}] of the other roles: the campaign above all
      # @param places [Array<Place>] chosen; the same may be chosen several times
      # @return [Array<Row>]
      def rows(landing:, values:, places:)
        seen = Hash.new(0)
        total = places.map { |place| [place.kind, place.source, place.medium] }.tally
        places.map do |place|
          key = [place.kind, place.source, place.medium]
          row(landing, values, place, (seen[key] += 1 if total[key] > 1))
        end
      end

      private

      def row(landing, values, place, number)
        dialect = @convention.dialects.find { |one| one.network.casecmp?(place.source) }
        own = {"source" => place.source, "medium" => place.medium}
        own.merge!(tokens(dialect)) { |_, said, _| said } if dialect && place.kind == "ad"
        told = label(place, number, own["content"] || values["content"])
        own["content"] = told if told && (number || own["content"].nil?)
        Row.new(
          landing: landing,
          kind: place.kind,
          network: dialect&.network,
          values: values.merge(own),
          exception: ""
        )
      end

      # The tokens that a network's dialect means for a role, where the role may hold them.
      def tokens(dialect)
        dialect.tokens.select(&:role).to_h { |token| [token.role, token] }
          .select { |role, token| @convention.role(role)&.token?(token.name) }.transform_values { |token|
            "#{dialect.open}#{token.name}#{dialect.close}"
          }
      end

      # Two places of one pair differ in their content, or nobody could tell them apart.
      def label(place, number, content)
        role = @convention.role("content") or return
        text = [place.label, number].compact.map(&:to_s).reject(&:empty?)
        return if text.empty?

        # A token in front keeps its own letters.
        [
          content,
          role.fold(text.join(role.separator).gsub(/\s+/, role.separator))
        ].compact.reject(&:empty?).join(role.separator)
      end
    end
  end
end
