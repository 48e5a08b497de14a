# frozen_string_literal: true

module Orvant
  class Signal
    # What the fields of a sender that nobody knows yet may be, by an example of what it sent: a signature
    # begins with them.
    class Draft
      # field: of a signature · name: as it is sent · value: in the example · why: in a sentence.
      Proposal = Struct.new(:field, :name, :value, :why, keyword_init: true) do
        # @return [Hash{String => Object}] for JSON
        def to_h = members.to_h { |name| [name.to_s, self[name]] }
      end
      # ISO 4217, those that are seen on sites; another is proposed by nobody.
      CURRENCIES = %w[AUD BGN BRL CAD CHF CNY CZK DKK EUR GBP HKD HUF IDR ILS INR ISK JPY KRW MXN MYR NOK NZD PHP PLN RON SEK SGD THB TRY USD ZAR].freeze
      AMOUNT = /\A\d{1,9}[.,]\d{2}\z/
      WORD = /\A[a-z][a-z]*(?:[_\- .][a-z]+){0,3}\z/i
      # Letters with digits that stay the same from visit to visit: a prefix and a number.
      ACCOUNT = /\A[A-Za-z]{1,6}[-_]?\d{2,}(?:-\d+)?\z/
      ORDER = /(?:order|orders|booking|transaction|receipt|invoice)/i
      # By which events are counted as views, where they say it in their own name.
      VIEW = /view|visit|load|pageload|page/i

      # @param address [Address] of the example
      # @param body [String, nil]
      # @param page [Address, nil] from which it was sent
      # @param roles [Hash{String => String}] what the page's address says, by role
      def initialize(address, body: nil, page: nil, roles: {})
        @record = Payload.new(address, body: body).records.first
          .flat_map { |name, value| flat(name, value) }.to_h
        @page = page
        @roles = roles.reject { |_, value| value.to_s.empty? }
      end

      # @return [Array<Proposal>] at most one a field, the surest first
      def proposals
        @proposals ||= [page, *repeated, amount, currency, order, account, event].compact.uniq(&:name)
      end

      # @return [Hash{String => String}] name by field, as a signature has them
      def fields = proposals.to_h { |one| [one.field, one.name] }

      # @return [Hash{String => Array<String>}] events of a signature
      def events = {"page_view" => [event_proposed&.value].compact.grep(VIEW), "conversion" => []}

      private

      def flat(name, value)
        if value.is_a?(Hash)
          value.flat_map { |inner, one| flat("#{name}.#{inner}", one) }
        else
          [[name, value.to_s]]
        end
      end

      def find(field, why)
        @record.find { |name, value| yield(name, value) }
          &.then { |name, value| Proposal.new(field: field, name: name, value: value[0, Cut::LINE], why: why) }
      end

      def page
        @page &&
          find(
            "page",
            "It is the address of the page that it was sent from."
          ) { |_, value|
            value.delete_suffix("/").start_with?(@page.raw[/\A[^?#]+/].to_s.delete_suffix("/")) &&
              value.include?("://")
          }
      end

      # What the page's address says, said again.
      def repeated
        @roles.slice("source", "medium", "campaign", "content", "term")
          .map { |role, wanted|
            find(role, "It repeats the #{role} of the page's address.") { |_, value| value == wanted }
          }
      end

      def amount = find("value", "It looks like an amount.") { |_, value| AMOUNT.match?(value) }

      def currency
        find("currency", "It is the code of a currency.") { |_, value| CURRENCIES.include?(value) }
      end

      def order
        find("order", "Its name speaks of an order.") do |name, value|
          ORDER.match?(name) && value.match?(/\d/) && !AMOUNT.match?(value)
        end
      end

      def account
        find("account", "It looks like the number of an account.") { |_, value| ACCOUNT.match?(value) }
      end

      def event = event_proposed

      # A word of few letters that is none of what is known already; one that is called so goes first.
      def event_proposed
        taken = [page, *repeated, currency].compact.map(&:name)
        words = @record.reject do |name, value|
          taken.include?(name) || !WORD.match?(value) || value.length > 40
        end
        name, value = words.find { |one, _| one.match?(/\A(?:e|ev|evt|en|event|action|do|t|type|name)\z|event|action/i) } || words.find { |_, one| one.match?(VIEW) } || words.first
        name &&
          Proposal.new(
            field: "event",
            name: name,
            value: value,
            why: "It is a word that may name what happened."
          )
      end
    end
  end
end
