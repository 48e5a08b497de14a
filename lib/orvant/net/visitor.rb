# frozen_string_literal: true

module Orvant
  module Net
    # As whom a link is followed. name: `desktop`, `phone`, or the tag of another language (`de`) · agent: the
    # User-Agent, which names Orvant honestly · language: Accept-Language · phone: whether the browser shows a
    # phone's view.
    Visitor = Struct.new(:name, :agent, :language, :phone, keyword_init: true) do
      # @return [Hash{String => String}] request headers
      def headers = {"user-agent" => agent, "accept-language" => language}
    end

    class Visitor
      ORVANT = "Orvant/#{VERSION} (audit of marketing links)"
      DESKTOP = new(name: "desktop", agent: ORVANT, language: "en", phone: false).freeze
      PHONE = new(
        name: "phone",
        agent: "Mozilla/5.0 (Linux; Android 14; Mobile) #{ORVANT}",
        language: "en",
        phone: true
      ).freeze
      LANGUAGE = /\A[a-z]{2,3}(-[A-Za-z0-9]{2,8})?\z/

      class << self
        # @param agent [String] a User-Agent with Orvant in it
        # @param contact [String] to whom a site may write; "" for nobody
        # @return [String] with that contact
        def signed(agent, contact)
          contact.empty? ? agent : agent.sub(ORVANT, "#{ORVANT.delete_suffix(")")}; #{contact})")
        end

        # @param name [String] `desktop`, `phone` or a language tag (RFC 5646)
        # @return [Visitor]
        # @raise [Error::UnusableDocument] for any other name
        def of(name)
          known = {"desktop" => DESKTOP, "phone" => PHONE}[name]
          return known if known
          unless LANGUAGE.match?(name.to_s)
            raise Error::UnusableDocument,
              "The visitor “#{name.to_s[0, Cut::WORD]}” is neither desktop nor phone nor the tag of a language such as de."
          end

          new(name: name, agent: ORVANT, language: name, phone: false)
        end
      end
    end
  end
end
