# frozen_string_literal: true

module Orvant
  module Checks
    module Traffic
      # Finds out why a row reaches no channel.
      class Unassigned < CauseCheck
        describes "traffic/unassigned", weight: "breaks",
          why: "Unassigned visits stand in no channel, so what brought them gets no credit.",
          fails: {"source" => "island-letter", "medium" => "Email"},
          passes: {"source" => "island-letter", "medium" => "email"}

        def findings
          return [] unless subject.answer.unassigned?

          [token || letter_case || unknown_value || no_rule]
        end

        private

        def token
          role = subject.roles.find { |one| Token.in?(subject.value(one.name), subject.convention) } or return
          return if role.name == "campaign"

          value = subject.value(role.name)
          facts = carrying(role.name, value)
          caused("unfilled token", "The #{role.name} is the token #{value}, which nothing filled#{from(facts)}.",
            facts: facts, codes: ["param/unfilled-token"], becomes: meant(facts))
        end

        def letter_case
          folded = subject.roles.to_h { |role| [role.name, role.fold(subject.value(role.name))] }
          role = subject.roles.find { |one| folded[one.name] != subject.value(one.name) } or return
          becomes = subject.channel_with(folded)
          return if becomes == Convention::ChannelRules::UNASSIGNED

          value = subject.value(role.name)
          facts = carrying(role.name, value)
          caused("letter case", "The #{role.name} is “#{value}” where the rules know “#{folded[role.name]}”#{from(facts)}.", facts: facts, codes: ["param/case"], becomes: becomes)
        end

        def unknown_value
          role = subject.roles.find { |one| one.name == "medium" } or return
          value = subject.value("medium")
          return if value.empty? || !role.vocabulary.closed? || role.vocabulary.include?(role.fold(value))

          facts = carrying("medium", value)
          caused("unknown medium", "The medium “#{value}” is not among the permitted ones, and no rule knows it#{from(facts)}.", facts: facts, codes: ["param/unknown-value", "param/whitespace"], becomes: canonical(role, value) || meant(facts))
        end

        def no_rule
          facts = carrying("medium", subject.value("medium"))
          caused("no channel rule",
            "No channel rule takes source “#{subject.value("source")}” with medium “#{subject.value("medium")}”; #{subject.answer.nearest || "no rule comes near"}.", facts: facts, codes: ["param/no-channel"])
        end

        # Where the source of the row is known, only links of that source are behind it.
        def carrying(role, value)
          subject.knowledge.carrying(role, value,
            on: subject.row.date).select { |fact| role == "source" || fact.carried["source"].to_s.downcase == subject.value("source").downcase }
        end

        def canonical(role, value)
          known = role.vocabulary.canonical(value)
          known && subject.channel_with("medium" => known)
        end

        def meant(facts)
          channels = facts.map { |fact| fact.meant }.uniq.map { |values| values.empty? ? nil : subject.channel_with(values) }.uniq
          channels.first if channels.size == 1 && channels.first != Convention::ChannelRules::UNASSIGNED
        end

        def from(facts) = facts.empty? ? "; no link in the inventory carries it" : " (#{named(facts)})"
      end
    end
  end
end
