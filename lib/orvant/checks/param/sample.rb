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
               "vocabulary" => {"closed" => true, "values" => [{"value" => "island-letter"}, {"value" => "lanternfind"}]}},
              {"role" => "medium", "carriers" => ["utm_medium"], "required" => "always", "case" => "lower",
               "vocabulary" => {"closed" => true,
                                "values" => [{"value" => "email"}, {"value" => "paid-search"}, {"value" => "sponsorship"}]}},
              {"role" => "campaign", "carriers" => ["utm_campaign"], "case" => "lower"}
            ],
            "relay_hosts" => ["skl.example"],
            "identifiers" => [{"parameter" => "click_no", "source" => "lanternfind"}],
            "pairs" => [{"source" => "island-letter", "medium" => "email"},
              {"source" => "lanternfind", "medium" => "paid-search"}],
            "channels" => [
              {"channel" => "Email", "when" => [{"field" => "medium", "is" => ["email"]}]},
              {"channel" => "Paid search", "paid" => true, "when" => [{"field" => "medium", "is" => ["paid-search"]}]}
            ]
          )
        end
      end
    end
  end
end
