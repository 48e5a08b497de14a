# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # The small convention by which the examples of the family are judged.
      module Sample
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
