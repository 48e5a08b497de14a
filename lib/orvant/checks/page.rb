# frozen_string_literal: true

module Orvant
  module Checks
    # The family on what a page says of itself.
    module Page
      # What the family judges: a visit to a page of the advertiser's own.
      #
      # visit: Browser::PageVisit · convention: Convention · fields: Array<Hash>, the attribution fields
      # expected on pages (`page`, `field`, `role`).
      Subject = Struct.new(:visit, :convention, :fields, keyword_init: true) do
        def facts = visit.facts.to_h

        # @return [Array<Hash>] those expected on this page
        def expected_fields = fields.select { |one| one["page"] == visit.path }

        # @return [Address] as it was opened
        def address = Address.new(visit.address)

        def lines = [visit.final_address]
      end

      class << self
        # @param subject [Subject]
        # @return [Array<Finding>] none for a page that could not be opened, or that led away from own hosts
        def judge(subject)
          if subject.visit.reason ||
              !subject.convention.own_hosts.cover?(Address.new(subject.visit.final_address).host)
            return []
          end

          Check.family("page").flat_map { |check| check.new(subject).findings }
        end

        # @param example [Hash] `facts` of a page, and `hidden`: the hidden fields of its form, where
        #   `lead_source` is expected to hold the source
        # @return [Array<Finding>]
        def sample(example)
          form = {"hidden" => example.fetch("hidden", {"lead_source" => "island-letter"})}
          facts = {"forms" => [form]}.merge(example.fetch("facts", {}))
          visit = Browser::PageVisit.new(address: "http://www.skerryline.example/groups?utm_source=island-letter",
            page: "www.skerryline.example/groups",
            final_address: "http://www.skerryline.example/groups?utm_source=island-letter",
            signals: [],
            tags: [],
            refused: [],
            watched: 2000,
            title: "",
            facts: facts)
          judge(Subject.new(
            visit: visit,
            convention: Param::Sample.convention,
            fields: [{
              "page" => "www.skerryline.example/groups",
              "field" => "lead_source",
              "role" => "source"
            }]
          ))
        end
      end
    end
  end
end
