# frozen_string_literal: true

module Orvant
  module Checks
    module Tag
      # Examples of pages, as checks describe themselves by.
      module Sample
        SIGNATURE = Signal::Signature.new({
          "tag" => "gullwatch", "name" => "Gullwatch", "purpose" => "analytics", "functions" => ["gw"],
          "markup" => [
            {"host" => "cdn.gullwatch.example", "path" => "/gw.js"},
            {"inline" => "gw('start', '*')"}
          ],
          "wire" => [{"host" => "in.gullwatch.example", "path" => "/c"}],
          "fields" => {
            "account" => "st",
            "event" => "ev",
            "source" => "sr",
            "medium" => "md",
            "campaign" => "cp",
            "consent" => "cs"
          },
          "events" => {"page_view" => ["view"], "conversion" => ["lead"]}
        })
        BASE = "<script src=\"http://cdn.gullwatch.example/gw.js\"></script>"
        ADDRESS = "http://www.skerryline.example/"

        # What the settings of the examples expect.
        EXPECTED = {"expected_tags" => [{"tag" => "gullwatch", "account" => "SK-204"}]}.freeze

        class << self
          # @param example [Hash] as Tag.sample takes it
          # @return [Array<Finding>]
          def judge(example)
            return Uneven.sample(example) if example.is_a?(Array)

            example.key?("counted") ? CountedUnseen.sample(example) : Tag.judge(subject(example))
          end

          # @param example [Hash]
          # @return [Subject]
          def subject(example)
            Subject.new(visit: visit(example),
              watching: Watching.new(EXPECTED.merge(example.fetch("watching", {}))),
              names: {"gullwatch" => "Gullwatch"},
              roles: {"gullwatch" => SIGNATURE.roles},
              values: Param::Sample.convention.values_in(Address.new(example.fetch("address", ADDRESS))))
          end

          private

          def visit(example)
            address = example.fetch("address", ADDRESS)
            html = if example["markup"].is_a?(Array)
              example["markup"].any? ? "<head>#{BASE}</head>" : ""
            else
              example["markup"].to_s
            end
            markup = Orvant::Page::Markup.new(html)
            installations = SIGNATURE.installations(markup, Address.new(address))
            Browser::PageVisit.new(address: address,
              page: Address.new(address).page,
              final_address: address,
              signals: example["signals"].map { |said| signal(said, address) },
              tags: installations.map(&:tag).uniq,
              installations: installations,
              calls: Browser::PageVisit.calls(markup, installations, [SIGNATURE]),
              errors: example.fetch("errors", []),
              state: example["state"],
              refused: [],
              held: [],
              watched: 2000,
              title: "",
              facts: {})
          end

          def signal(said, address)
            event, facts = Array(said)
            Signal.new(tag: "gullwatch",
              event: event,
              kind: {
                "view" => "page_view",
                "lead" => "conversion",
                "?" => "unreadable"
              }.fetch(event, "other"),
              account: "SK-204",
              values: {},
              page: address,
              at: 100,
              request: "http://in.gullwatch.example/c?ev=#{event}", **facts.to_h.transform_keys(&:to_sym))
          end
        end
      end
    end
  end
end
