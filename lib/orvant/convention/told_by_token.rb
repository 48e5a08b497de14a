# frozen_string_literal: true

module Orvant
  class Convention
    # Which fact of its ad a token stands for, where its dialect does not say so: from its name
    # (`campaign.name`, `ad_id`), or from a meaning such as “Number of the ad”. A token whose name says
    # anything else besides is left to the network.
    module ToldByToken
      SUBJECTS = {
        "keyword" => /\Akey ?words?\z/,
        "group" => /\A(?:ad ?)?group\z/,
        "campaign" => /\Acampaign\z/,
        "account" => /\A(?:account|advertiser)\z/,
        "ad" => /\A(?:ad|creative|banner)\z/
      }.freeze
      NUMBERS = %w[id number no nr num].freeze
      NAMES = %w[name title text].freeze
      MEANING = /\A(name|number|id|identifier) of the (account|campaign|ad group|group|ad|banner)\b/i

      class << self
        # @param token [Dialect::Token]
        # @return [String, nil] one of Dialect::TOLD
        def of(token)
          return if token.landing || token.condition

          subject, kind = said(token)
          return unless subject
          return subject if subject == "keyword"

          number = NUMBERS.include?(kind) || (kind.nil? && token.sample.to_s.match?(/\A\d+\z/))
          return subject unless number

          (subject == "ad") ? "id" : "#{subject} id"
        end

        private

        def said(token) = by_name(token.name) || by_meaning(token.meaning.to_s)

        def by_name(name)
          words = name.gsub(/(?<=[a-z])(?=[A-Z])/, " ").downcase.split(/[^a-z]+/)
          kind = words.pop if (NUMBERS + NAMES).include?(words.last)
          text = words.join(" ").sub(/(?<=[a-z])(id|name)\z/) { kind ||= $1 and "" }
          subject = SUBJECTS.find { |_, pattern| pattern.match?(text) }&.first
          [subject, kind] if subject
        end

        def by_meaning(meaning)
          kind, of = MEANING.match(meaning)&.captures
          return unless of

          subject = SUBJECTS.find { |_, pattern| pattern.match?(of.downcase) }.first
          [subject, kind.casecmp?("name") ? "name" : "id"]
        end
      end
    end
  end
end
