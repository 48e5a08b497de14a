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

        BLANKS = /\A[[:space:]\u200B\uFEFF]+|[[:space:]\u200B\uFEFF]+\z/

        def self.concerns?(subject) = subject.answer.unassigned?

        def findings
          [
            token || white_space || letter_case || exchanged || other_name || other_source || other_role ||
              unknown_value || absent || no_rule
          ]
        end

        private

        # Whatever was found wrong with a value explains it.
        def wrong = @wrong ||= Check.codes_with(:wrong_value)

        def token
          role = subject.roles.find { |one| subject.knowledge.token?(subject.value(one.name)) } or return
          return if role.name == "campaign"

          value = subject.value(role.name)
          facts = carrying(role.name, value)
          caused("unfilled token",
            "The #{role.name} is the token #{value}, which nothing filled#{from(facts)}.",
            facts: facts, codes: ["param/unfilled-token", *wrong], role: role.name, becomes: meant(facts))
        end

        # Blanks of any kind around a value.
        def white_space
          clean = subject.roles.to_h { |role| [role.name, subject.value(role.name).gsub(BLANKS, "")] }
          role = subject.roles.find { |one| clean[one.name] != subject.value(one.name) } or return
          becomes = channel(clean) or return

          value = subject.value(role.name)
          facts = carrying(role.name, value)
          caused(
            "white space",
            "The #{role.name} is “#{value}” with white space around it#{from(facts)}.",
            facts: facts,
            codes: ["param/whitespace", *wrong],
            role: role.name,
            becomes: becomes
          )
        end

        # A rule asks for a source that is written otherwise here.
        def other_source
          role = subject.convention.role("source")
          value = subject.value("source")
          return if role.nil? || value.empty? || role.vocabulary.include?(value)

          folded = role.fold(value)
          known = role.vocabulary.canonical(folded) || role.vocabulary.near(folded) or return
          becomes = channel("source" => known) or return

          facts = carrying("source", value)
          caused(
            role.vocabulary.canonical(role.fold(value)) ? "another name" : "slip of the pen",
            "The source “#{value}” stands for “#{known}”#{from(facts)}.",
            facts: facts,
            codes: wrong,
            role: "source",
            becomes: becomes
          )
        end

        def letter_case
          folded = subject.roles.to_h { |role| [role.name, role.fold(subject.value(role.name))] }
          role = subject.roles.find { |one| folded[one.name] != subject.value(one.name) } or return
          becomes = subject.channel_with(folded)
          return if becomes == Convention::ChannelRules::UNASSIGNED

          value = subject.value(role.name)
          facts = carrying(role.name, value)
          caused(
            "letter case",
            "The #{role.name} is “#{value}” where the rules know “#{folded[role.name]}”#{from(facts)}.",
            facts: facts,
            codes: ["param/case", *wrong],
            role: role.name,
            becomes: becomes
          )
        end

        # Source and medium stand in each other's place.
        def exchanged
          source, medium = %w[source medium].map { |role| subject.convention.role(role) }
          return unless source && medium

          turned = {
            "source" => source.vocabulary.known(subject.value("medium")),
            "medium" => medium.vocabulary.known(subject.value("source"))
          }
          return unless turned.values.all? && !source.vocabulary.include?(subject.value("source"))

          explained(
            "values exchanged",
            "Source “#{subject.value("source")}” and medium “#{subject.value("medium")}” stand in each other's place",
            channel(turned)
          )
        end

        # The rules know the value by another name, or it is a slip away from one that they know.
        def other_name
          role, value = medium_with_a_value
          return unless role

          known = role.vocabulary.canonical(role.fold(value))
          if known
            return explained(
              "another name",
              "The medium “#{value}” is another name for “#{known}”",
              channel("medium" => known)
            )
          end

          near = role.vocabulary.near(role.fold(value)) or return
          explained(
            "slip of the pen",
            "The medium “#{value}” is a slip away from “#{near}”",
            channel("medium" => near)
          )
        end

        def other_role
          role, value = medium_with_a_value
          return unless role

          others = subject.convention.roles - [role]
          rightful = others.find { |other| other.vocabulary.known(value) } or return
          explained("value of another role", "The medium “#{value}” is a #{rightful.name}", nil)
        end

        def unknown_value
          role, value = medium_with_a_value
          return unless role

          return unless role.vocabulary.closed?

          explained(
            "unknown medium",
            "The medium “#{value}” is not among the permitted ones, and no rule knows it",
            nil
          )
        end

        # A source alone leads nowhere.
        def absent
          return if subject.value("medium") != "" || subject.value("source").empty?

          facts = carrying("source", subject.value("source")).select do |fact|
            fact.carried["medium"].to_s.empty?
          end
          return if facts.empty?

          caused(
            "missing medium",
            "The visit names its source, “#{subject.value("source")}”, and no medium#{from(facts)}.",
            facts: facts,
            codes: Check.codes_with(:no_value),
            role: "medium",
            becomes: meant(facts)
          )
        end

        def no_rule
          facts = carrying("medium", subject.value("medium"))
          caused("no channel rule",
            "No channel rule takes source “#{subject.value("source")}” with medium “#{subject.value("medium")}”; #{subject.answer.nearest || "no rule comes near"}.",
            facts: facts,
            codes: ["param/no-channel", *wrong])
        end

        # @return [Array(Convention::Role, String), nil] where the medium is none of its permitted ones
        def medium_with_a_value
          role = subject.convention.role("medium") or return
          value = subject.value("medium")
          [role, value] unless value.empty? || role.vocabulary.include?(role.fold(value))
        end

        def explained(cause, what, becomes)
          facts = carrying("medium", subject.value("medium"))
          caused(
            cause,
            "#{what}#{from(facts)}.",
            facts: facts,
            codes: wrong,
            role: "medium",
            becomes: becomes || meant(facts)
          )
        end

        # @return [String, nil] nil where it would be unassigned all the same
        def channel(values)
          subject.channel_with(values)
            .then { |name| name unless name == Convention::ChannelRules::UNASSIGNED }
        end

        def carrying(role, value) = subject.knowledge.carrying(role, value, subject.row)

        def meant(facts)
          channels = subject.knowledge.once(facts, :meant) { facts.map(&:meant).uniq }
            .map { |values| values.empty? ? nil : subject.channel_with(values) }.uniq
          channels.first if channels.size == 1 && channels.first != Convention::ChannelRules::UNASSIGNED
        end

        def from(facts) = facts.empty? ? "; no link in the inventory carries it" : " (#{named(facts)})"
      end
    end
  end
end
