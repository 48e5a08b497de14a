# frozen_string_literal: true

module Orvant
  module Checks
    module Traffic
      # Finds rows of paid clicks that stand in a channel for which nobody pays: they carry a click
      # identifier, or only ads carry what they say.
      class PaidAsUnpaid < CauseCheck
        describes "traffic/paid-as-unpaid", weight: "breaks",
          why: "A click that was paid for and is counted as free makes the ad look dearer and the free channel better than they are.",
          fails: {
            "source" => "island-letter",
            "medium" => "email",
            "click" => "click_no"
          }, passes: {"source" => "island-letter", "medium" => "paid", "click" => "click_no"}
        # Findings on an ad that explain why it reads as unpaid.
        WRONG = %w[param/pair param/wrong-role param/unknown-value param/near-miss param/case param/missing param/empty trail/dropped trail/overwritten].freeze

        def self.concerns?(subject)
          !subject.answer.unassigned? &&
            !subject.convention.channel_rules.paid?(subject.answer.channel)
        end

        def findings
          ads = subject.knowledge.ads(subject.row)
          return [] if !clicked? && (ads.empty? || !subject.knowledge.only_ads?(subject.row))

          [caused(
            "paid click counted as unpaid",
            "#{said}#{" (#{named(ads)})" if ads.any?}; channel #{subject.answer.channel} is not paid for.",
            facts: ads,
            codes: WRONG,
            becomes: becomes(ads),
            root: "#{self.class.code} #{subject.value("source").downcase}",
            remedy: remedy
          )]
        end

        private

        def rules = subject.convention.channel_rules

        # An identifier that ads alone carry, in its own column or in the landing address.
        def clicked? = !identifier.nil?

        def identifier
          return @identifier if defined?(@identifier)

          @identifier =
            if subject.row.click.to_s.empty?
              subject.knowledge.identifier_in(subject.row.landing)
            else
              subject.row.click
            end
        end

        def said
          return "The visit carries the click identifier #{identifier}, which ads alone carry" if clicked?

          "Source “#{subject.value("source")}”, medium “#{subject.value("medium")}” and campaign “#{subject.value("campaign")}” are those of ads alone"
        end

        def remedy
          source = subject.value("source")
          Remedy.new(
            action: "Write a medium that is paid for on the ads#{" of #{source}" unless source.empty?}, or name the click identifier in a channel rule before “#{subject.answer.channel}”.",
            at: "convention",
            place: "Channel rules"
          )
        end

        # The channel of its ads, else the only paid one that its source, or any, can reach.
        def becomes(ads)
          channels = paid(ads.map { |fact|
            subject.channel_with(fact.meant.any? ? fact.meant : fact.carried)
          })
          if channels.empty?
            channels = paid(subject.convention.pairs.select { |pair| pair.source == subject.value("source") }
              .map { |pair| subject.channel_with("medium" => pair.medium) })
          end
          channels = rules.rules.select(&:paid?).map(&:channel).uniq if channels.empty?
          channels.first if channels.size == 1
        end

        def paid(channels) = channels.uniq.select { |channel| rules.paid?(channel) }
      end
    end
  end
end
