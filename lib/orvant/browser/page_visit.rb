# frozen_string_literal: true

module Orvant
  module Browser
    # What was seen on one page in the sealed browser.
    #
    # address: as opened · page: host and path · final_address · title · reason: a sentence where it could not be opened ·
    # signals: Array<Signal> · tags: tags found in the markup · refused: requests that were not made · watched: milliseconds.
    PageVisit = Struct.new(:address, :page, :final_address, :title, :reason, :signals, :tags, :refused, :watched,
      keyword_init: true) do
      # @return [Hash{String => Object}] for JSON
      def to_h = members.to_h { |name| [name.to_s, self[name]] }.merge("signals" => signals.map(&:to_h))
    end

    class PageVisit
      class << self
        # Opens a page and watches it until it is quiet.
        #
        # @param browser [Sealed]
        # @param address [String]
        # @param signatures [Array<Signal::Signature>]
        # @return [PageVisit] always; what went wrong is its reason
        def watch(browser, address, signatures)
          browser.visit { |visit| seen(visit, address, signatures) }
        rescue Error::Unreachable => error
          new(**blank(address), reason: error.message)
        end

        private

        def seen(visit, address, signatures)
          visit.open(address)
          watched = visit.settle
          new(**blank(address), final_address: visit.current_address, watched: watched, signals: visit.signals.dup,
            refused: visit.refused.first(50), **markup(visit, signatures))
        end

        def markup(visit, signatures)
          markup = Page::Markup.new(visit.body)
          base = Address.new(visit.current_address)
          {title: markup.title, tags: signatures.select { |one| one.in_markup?(markup.script_sources, base) }.map(&:tag)}
        end

        def blank(address)
          {address: address, page: Address.new(address).page, final_address: address, signals: [], tags: [],
           refused: [], watched: 0, title: ""}
        end
      end
    end
  end
end
