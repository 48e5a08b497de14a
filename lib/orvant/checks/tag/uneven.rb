# frozen_string_literal: true

module Orvant
  module Checks
    module Tag
      # Finds tags that some variants of a page have and others have not, though nobody demands them.
      class Uneven < Check
        describes "tag/uneven", weight: "skews",
          why: "Variants of a page are compared by what a tag counts on them: one without it loses by that alone.",
          fails: [["a", ["gullwatch"]], ["b", []]], passes: [["a", ["gullwatch"]], ["b", ["gullwatch"]]]
        asks :signature, :states, :variants, :expected_tags

        # @param visits [Array<Browser::PageVisit>]
        # @param watching [Watching]
        # @param names [Hash{String => String}] of tags
        # @return [Array<Finding>]
        def self.over(visits, watching, names)
          seen = visits.reject(&:reason)
          watching.variants.flat_map do |pages|
            group = seen.select { |visit| pages.any? { |page| Watching.on?(page, visit.path) } }.uniq(&:page)
            (group.size < 2) ? [] : new([group, watching, names]).findings
          end
        end

        # @param example [Array] page and tags of each variant
        # @return [Array<Finding>]
        def self.sample(example)
          visits = example.map do |page, tags|
            Browser::PageVisit.new(
              address: "http://www.skerryline.example/#{page}",
              page: "www.skerryline.example/#{page}",
              final_address: "http://www.skerryline.example/#{page}",
              signals: [],
              tags: tags,
              watched: 2000
            )
          end
          over(visits, Watching.new("variants" => [visits.map(&:page)]), {})
        end

        def findings
          visits, watching, names = subject
          demanded = visits.flat_map { |visit| watching.expected(visit.path).map(&:tag) }
          tags = visits.flat_map { |visit| present(visit) }.uniq - demanded
          tags.filter_map do |tag|
            uneven(tag, names.fetch(tag, tag), *visits.partition { |visit| present(visit).include?(tag) })
          end
        end

        private

        def present(visit) = (visit.tags + visit.signals.map(&:tag)).uniq

        def uneven(tag, name, with, without)
          return if without.empty?

          finding("#{name} is on #{with.map(&:path).join(", ")}, but not on #{without.map(&:path).join(", ")}, which are variants of the same page.",
            place: {"tag" => tag, "page" => without.first.page, "pages" => without.map(&:page)},
            evidence: (with + without).map { |visit|
              "#{visit.final_address}: #{present(visit).include?(tag) ? "there" : "not there"}"
            },
            root: "tag/uneven #{tag} #{without.map(&:path).sort.join(" ")}",
            remedy: Remedy.new(
              action: "Put #{name} on all variants of the page, or on none.",
              at: "page",
              place: without.first.page
            ))
        end
      end
    end
  end
end
