# frozen_string_literal: true

module Orvant
  module Inventory
    # An address that was found and is no link to audit. address: as written · text: of the link · reason: one
    # word (`unsubscribe`, `mail`, `phone`, `in the page`) · place: where.
    Apart = Struct.new(:address, :text, :reason, :place, keyword_init: true) do
      # @return [Hash{String => String}]
      def to_h = members.to_h { |name| [name.to_s, self[name]] }
    end

    class Apart
      UNSUBSCRIBE = /unsubscri|opt[-_ ]?out|sign[-_ ]?off|abmelde|abbestell|d[ée]sabonn|desinscri|afmeld|preferences/i
      SCHEMES = {
        "mailto" => "mail",
        "tel" => "phone",
        "sms" => "phone",
        "callto" => "phone",
        "javascript" => "script",
        "data" => "script",
        "cid" => "attachment"
      }.freeze

      # @param href [String] as written
      # @param text [String] of the link
      # @param unsubscribe [Regexp] what tells a link that ends a subscription
      # @return [String, nil] why it is no link to audit
      def self.reason(href, text, unsubscribe: UNSUBSCRIBE)
        return "in the page" if href.strip.empty? || href.start_with?("#")

        scheme = href[/\A\s*([a-z][a-z0-9+.-]*):/i, 1].to_s.downcase
        return SCHEMES[scheme] if SCHEMES.key?(scheme)

        "unsubscribe" if text.match?(unsubscribe) || href.match?(unsubscribe)
      end
    end
  end
end
