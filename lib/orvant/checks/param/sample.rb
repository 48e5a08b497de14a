# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # The examples of the family, and the small convention by which they are judged.
      module Sample
        PAGE = "http://www.skerryline.example/day-pass"

        # @param query [String]
        # @param facts [Hash{Symbol => String}] of the ad
        # @return [Hash{String => Object}] an example of a link in an ad
        def self.ad(query, **facts)
          {"query" => query, "kind" => "ad", "facts" => facts.transform_keys(&:to_s)}
        end

        # @param example [String, Hash{String => Object}] a query; or what there is to say of a link: its
        #   whole `address`, or its `query` at PAGE; its `kind`; the `page` on which it stands; `facts` of
        #   where it was found
        # @return [Entry]
        def self.entry(example)
          example = {"query" => example} if example.is_a?(String)
          kind = example.fetch("kind") { example.key?("page") ? "page" : "message" }
          page = example["page"]&.then { |address| Address.parse(address) }
          found = Inventory::Sighting.new(kind: kind, page: page, facts: example.fetch("facts", {}))
          address = example.fetch("address") { "#{PAGE}?#{example.fetch("query")}" }
          Entry.new(address: Address.parse(address), kind: kind, sightings: [found])
        end

        # @return [Convention]
        def self.convention
          @convention ||= Convention.read(
            "name" => "Example rules",
            "own_hosts" => ["www.skerryline.example"],
            "roles" => [
              {"role" => "source", "carriers" => ["utm_source"], "required" => "always", "case" => "lower",
               "vocabulary" => {
                 "closed" => true,
                 "values" => [{"value" => "island-letter"}, {"value" => "lanternfind"}]
               }},
              {"role" => "medium", "carriers" => ["utm_medium"], "required" => "always", "case" => "lower",
               "vocabulary" => {"closed" => true,
                                "values" => [
                                  {"value" => "email"},
                                  {"value" => "paid-search"},
                                  {"value" => "sponsorship"}
                                ]}},
              {
                "role" => "campaign",
                "carriers" => ["utm_campaign"],
                "case" => "lower",
                "characters" => ["a-z", "0-9", "-", "."],
                "longest" => 40
              },
              {"role" => "content", "carriers" => ["utm_content"], "case" => "lower", "segments" => [
                {"segment" => "year", "number" => {"from" => 2024, "to" => 2030}},
                {"segment" => "place", "values" => ["top", "foot"]}
              ]}
            ],
            "dialects" => [{
              "network" => "Lanternfind",
              "open" => "(=",
              "close" => "=)",
              "tokens" => [{"token" => "ad.name", "meaning" => "Name of the ad", "sample" => "pass"}]
            },
              {
                "network" => "Pigeonry",
                "open" => "<~",
                "close" => "~>",
                "tokens" => [{"token" => "issue", "meaning" => "Name of the issue", "sample" => "june"}]
              }],
            "relay_hosts" => ["skl.example"],
            "identifiers" => [{"parameter" => "click_no", "source" => "lanternfind"}],
            "pairs" => [{"source" => "island-letter", "medium" => "email"},
              {"source" => "lanternfind", "medium" => "paid-search"}],
            "channels" => [
              {"channel" => "Email", "when" => [{"field" => "medium", "is" => ["email"]}]},
              {
                "channel" => "Paid search",
                "paid" => true,
                "when" => [{"field" => "medium", "is" => ["paid-search"]}]
              }
            ]
          )
        end
      end
    end
  end
end
