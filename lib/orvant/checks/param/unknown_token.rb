# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Finds tokens on ads that the ad's network does not offer: it hands them on as they stand.
      class UnknownToken < ValueCheck
        describes "param/unknown-token", weight: "breaks",
          why: "A network fills only the tokens that it offers, spelled as it spells them; any other is recorded literally.",
          fails: Sample.ad("utm_source=lanternfind&utm_medium=paid-search&click_no=1&utm_campaign=(=adname=)"),
          passes: Sample.ad("utm_source=lanternfind&utm_medium=paid-search&click_no=1&utm_campaign=(=ad.name=)")
        reads :names, :parts, :identifiers, :network
        reports :unknown_token
        include LooseTokens

        def self.concerns?(subject) = super || LooseTokens.any?(subject)

        def findings = super + ((subject.kind == "ad") ? loose : [])

        private

        def loose_message(token, where)
          "#{where.sub(/\A./, &:upcase)} holds #{token.text}, which #{subject.network || "the ad's network"} does not offer: it is handed on as it stands."
        end

        # The nearest token of the dialect; its signs must stand raw: percent-encoded, most networks would not
        # see them.
        def correction(reading) = reading.tokens.nearest(reading.tokens.unknown)

        def edit_value(reading, correction)
          Address::Pair::Written.new(reading.value.split(reading.tokens.unknown.text, 2)
            .map { |piece| Address::Pair.encode(piece) }.join(correction))
        end

        def remedy(reading, meant)
          return {action: "Take #{reading.tokens.unknown.text} out of #{reading.pair.name}."} unless meant

          {
            action: "Write #{meant} instead of #{reading.tokens.unknown.text} in #{reading.pair.name}.",
            value: meant
          }
        end

        def place(reading) = {"token" => reading.tokens.unknown.text}

        def message(reading)
          token = reading.tokens.unknown
          network = reading.network || token.dialect&.network || "the ad's network"
          if token.token
            return "#{token.text} stands percent-encoded in #{reading.pair.name}, and #{network} fills no token that is encoded: it is recorded literally."
          end

          "#{reading.pair.name} holds #{token.text}, which #{network} does not offer, so it is recorded literally#{", for #{reading.tokens.nearest(token)}" if reading.tokens.nearest(token)}."
        end
      end
    end
  end
end
