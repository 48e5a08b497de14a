# frozen_string_literal: true

module Orvant
  module Checks
    module Traffic
      # The base of checks on rows that a host of a known kind sent, and that no rule for its channel takes:
      # they pass for a partner's.
      class HostReferral < CauseCheck
        def self.concerns?(subject)
          !subject.value("referrer").empty? && %w[source medium].all? { |role| subject.value(role).empty? }
        end

        def findings
          host = subject.value("referrer")
          return [] if !hosts.cover?(host) || knowing?

          [caused(cause,
            message(host),
            facts: untagged,
            codes: Check.codes_with(:no_value),
            becomes: becomes,
            root: "#{self.class.code} #{host}",
            remedy: Remedy.new(
              action: "Write parameters on the links that are followed from #{host}, and name the host in the channel rule of its kind.",
              value: host,
              at: "convention",
              place: "Channel rules"
            ))]
        end

        private

        # A rule that asks for certain referrers has decided.
        def knowing?
          subject.answer.rule &&
            subject.convention.channel_rules.rules[subject.answer.rule - 1].names?("referrer")
        end

        # Links of the kind that land there and say nothing of where they stand.
        def untagged
          @untagged ||= subject.knowledge.landing_on(
            subject.knowledge.page(subject.row.landing),
            on: subject.row.date
          )
            .select { |fact|
              fact.kind == kind &&
                fact.carried.values_at("source", "medium").all? { |value| value.to_s.empty? }
            }
        end

        # By what those links should carry, else by the mediums of such links.
        def becomes
          values = untagged.map(&:meant).reject(&:empty?)
          values = mediums.map { |medium| {"medium" => medium} } if values.empty?
          channels = values.map { |one| subject.channel_with(one) }.uniq -
            [Convention::ChannelRules::UNASSIGNED, subject.answer.channel]
          channels.first if channels.size == 1
        end

        def mediums
          permitted = subject.convention.pairs.select { |pair| pair.kinds.include?(kind) }.map(&:medium)
          if permitted.any?
            permitted.uniq
          else
            [usual].select { |medium| subject.convention.role("medium")&.vocabulary&.include?(medium) }
          end
        end
      end
    end
  end
end
