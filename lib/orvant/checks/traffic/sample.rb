# frozen_string_literal: true

require "date"

module Orvant
  module Checks
    module Traffic
      # The small world by which the examples of the family are judged.
      module Sample
        class << self
          # @param example [Hash] fields of a row
          # @return [Orvant::Traffic::Row]
          def row(example)
            blank = Orvant::Traffic::DIMENSIONS.to_h { |field| [field, ""] }.merge(landing: "/walks")
            Orvant::Traffic::Row.new(date: Date.new(2026, 11, 2),
              sessions: 10,
              conversions: 0,
              revenue: 0,
            **blank,
              **example.transform_keys(&:to_sym))
          end

          # @param example [Hash] figures
          # @return [Orvant::Traffic::Reckoning::Line]
          def line(example)
            figures = Orvant::Traffic::Reckoning::Line.members.drop(3).to_h { |name| [name, 0] }
            Orvant::Traffic::Reckoning::Line.new(
              network: "Lanternfind",
              campaign: "Autumn walks",
              name: "autumn-walks",
              **figures,
              **example.transform_keys(&:to_sym)
            )
          end

          # @return [Orvant::Traffic::Knowledge]
          def knowledge
            fact = Orvant::Traffic::LinkFact.new(id: 1,
              address: "http://skerryline.example/walks?utm_source=island-letter&utm_medium=email",
              kind: "message",
              place: "Island letter",
              page: "www.skerryline.example/walks", since: Date.new(2026, 10, 1),
              carried: {"source" => "island-letter", "medium" => "email"},
              found: [Orvant::Traffic::Known.new(code: "trail/dropped", root: "r1")],
              meant: {})
            Orvant::Traffic::Knowledge.new(
              convention,
              [fact, between_own, capital, unfilled],
              campaigns: {"autumn-walks" => 400, "autumn_walks" => 12}
            )
          end

          private

          def capital
            Orvant::Traffic::LinkFact.new(id: 3,
              address: "http://www.skerryline.example/walks?utm_source=island-letter&utm_medium=Email",
              kind: "message",
              place: "Island letter, June",
              page: "www.skerryline.example/spring-walks",
              carried: {"source" => "island-letter", "medium" => "Email"},
              found: [Orvant::Traffic::Known.new(code: "param/case", role: "medium", root: "r1")],
              meant: {"source" => "island-letter", "medium" => "email"})
          end

          def unfilled
            Orvant::Traffic::LinkFact.new(id: 4,
              address: "http://www.skerryline.example/walks?utm_source=island-letter&utm_medium=email&utm_campaign=<~issue~>",
              kind: "message",
              place: "Island letter, July",
              page: "www.skerryline.example/summer-walks",
              carried: {"source" => "island-letter", "medium" => "email", "campaign" => "<~issue~>"},
              found: [Orvant::Traffic::Known.new(code: "param/unfilled-token", role: "campaign", root: "r1")],
              meant: {})
          end

          def between_own
            Orvant::Traffic::LinkFact.new(id: 2,
              address: "http://skerryline.example/day-pass?utm_source=site&utm_medium=banner",
              kind: "page",
              place: "Home",
              page: "www.skerryline.example/day-pass",
              carried: {"source" => "site", "medium" => "banner"},
              found: [Orvant::Traffic::Known.new(code: "param/internal", root: "r1")],
              meant: {})
          end

          def convention
            @convention ||= Convention.read(
              "name" => "Example rules", "own_hosts" => ["www.skerryline.example"],
              "payment_hosts" => ["pay.coinquay.example"],
              "mail_hosts" => ["mail.harbourpost.example"],
              "social_hosts" => ["out.tidepost.example"],
              "roles" => [
                {"role" => "source", "carriers" => ["utm_source"], "case" => "lower"},
                {"role" => "medium", "carriers" => ["utm_medium"], "case" => "lower",
                 "vocabulary" => {
                   "closed" => true,
                   "values" => [{"value" => "email"}, {"value" => "paid"}, {"value" => "social"}]
                 }},
                {"role" => "campaign", "carriers" => ["utm_campaign"], "case" => "lower"}
              ],
              "channels" => [
                {
                  "channel" => "Direct",
                  "when" => %w[source medium referrer].map { |field| {"field" => field, "empty" => true} }
                },
                {"channel" => "Paid", "paid" => true, "when" => [{"field" => "medium", "is" => ["paid"]}]},
                {"channel" => "Social", "when" => [{"field" => "medium", "is" => ["social"]}]},
                {"channel" => "Email", "when" => [{"field" => "medium", "is" => ["email"]}]},
                {"channel" => "Referral",
                 "when" => [
                   {"field" => "medium", "empty" => true},
                   {"field" => "referrer", "empty" => false}
                 ]}
              ]
            )
          end
        end
      end
    end
  end
end
