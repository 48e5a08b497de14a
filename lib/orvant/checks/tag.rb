# frozen_string_literal: true

module Orvant
  module Checks
    # The family on the tags of one page.
    module Tag
      # What the family judges: a visit to a page, and the tags expected there.
      #
      # visit: Browser::PageVisit · expected: Array<Hash> (`tag`, `account`) · names: Hash of tag to its readable name.
      Subject = Struct.new(:visit, :expected, :names, keyword_init: true) do
        def name(tag) = names.fetch(tag, tag)

        def in_markup?(tag) = visit.tags.include?(tag)

        def signals(tag) = visit.signals.select { |signal| signal.tag == tag }

        # @return [Array<String>] lines of evidence: the page, how long it was watched, what left
        def lines
          ["#{visit.final_address} watched for #{(visit.watched / 1000.0).round(1)} s"] + visit.signals.map { |signal| "#{signal.event}  #{signal.request}" }
        end
      end

      class << self
        # @param subject [Subject]
        # @return [Array<Finding>] none for a page that could not be opened: nothing was seen there, good or bad
        def judge(subject)
          return [] if subject.visit.reason

          Check.family("tag").flat_map { |check| check.new(subject).findings }
        end

        # @param example [Hash] `markup` and `signals` of a page where the tag `gullwatch` is expected
        # @return [Array<Finding>]
        def sample(example)
          signals = example["signals"].map { |event| Signal.new(tag: "gullwatch", event: event, kind: (event == "view") ? "page_view" : "other", values: {}, request: "http://in.gullwatch.example/c?ev=#{event}") }
          visit = Browser::PageVisit.new(address: "http://www.skerryline.example/", page: "www.skerryline.example/",
            final_address: "http://www.skerryline.example/",
            signals: signals, tags: example["markup"], refused: [], watched: 2000, title: "")
          judge(Subject.new(visit: visit, expected: [{"tag" => "gullwatch"}], names: {}))
        end
      end
    end
  end
end
