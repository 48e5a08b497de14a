# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # What stands on a link beside the values of its parameters and should not: personal data, placeholders
      # that nobody fills, a carrier in the path.
      class Strays
        NOTHING = {}.freeze

        # @param link [LinkSubject]
        def initialize(link)
          @link = link
          @seen = link.seen
        end

        # @return [Array<Hash, String>, nil] what of those parts there is to say, or may be
        def seen_parts
          carrying = @seen.path if @seen.path.include?(";")
          [personal_parts, part_tokens, carrying] if carrying || personal_parts.any? || part_tokens.any?
        end

        # @return [Hash{String => PersonalData::Hit}] what is personal beside the parameters: in the user
        #   part, the path or the fragment
        def personal_parts
          fragment = @link.address.fragment
          unless @seen.path.match?(Orvant::PersonalData::HINT) || @seen.authority.include?("@") || fragment
            return NOTHING
          end

          user = @seen.authority[/\A(.*)@/m, 1]
          parts = {"user part" => user, "path" => @seen.path, "fragment" => fragment}
          @personal_parts ||= parts.transform_values { |text| personal_in(text) }.compact
        end

        # @return [Hash{String => Tokens::Found}] what looks like a placeholder in the path, the fragment, or
        #   the name of a parameter
        def part_tokens
          return NOTHING unless @seen.raw.match?(Tokens::HINT)

          @part_tokens ||= {
            "path" => @seen.path,
            "fragment" => @link.address.fragment,
            **@link.address.pairs.to_h { |pair| ["name #{pair.name}", pair.raw.partition("=").first] }
          }.transform_values { |text| text && token_in(text) }.compact
        end

        # @param role [Convention::Role]
        # @return [String, nil] its carrier with a value, where that stands in the path, which no reader of
        #   queries looks at
        def path_carrier(role) = @seen.path[/;(?:#{Regexp.union(role.carriers)})=[^;\/]*/]

        private

        def personal_in(text)
          return unless text&.match?(Orvant::PersonalData::HINT)

          text.split(%r{[/?&=]}).filter_map { |stretch| @link.convention.personal_data.find(stretch) }.first
        end

        def token_in(text) = Tokens.loose(Address::Pair.new("=#{text}"), @link)
      end
    end
  end
end
