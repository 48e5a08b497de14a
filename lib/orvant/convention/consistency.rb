# frozen_string_literal: true

module Orvant
  class Convention
    # Finds what contradicts itself in a document that fits its schema: rules by which nothing could ever be
    # right.
    class Consistency
      # path: JSON pointer · reason: a sentence.
      Fault = Struct.new(:path, :reason, keyword_init: true) do
        def to_s = "#{path}: #{reason}"
      end

      MOST = 20

      # @param document [Hash] valid by the schema
      def initialize(document)
        @document = document
        @roles = document["roles"]
        @by_name = @roles.to_h { |role| [role["role"], role] }
        @faults = []
      end

      # @return [Array<Fault>] twenty at most
      def faults
        once(@roles.map { |role| role["role"] }, "/roles", "The role “%s” is described twice.")
        carriers
        @roles.each_with_index { |role, number| role_faults(role, "/roles/#{number}") }
        pairs
        rules
        identifiers
        @faults.first(MOST)
      end

      private

      def fault(path, reason) = @faults << Fault.new(path: path, reason: reason)

      def once(names, path, sentence)
        names.tally.each { |name, count| fault(path, format(sentence, name)) if count > 1 }
      end

      def carriers
        once(
          @roles.flat_map { |role| role["carriers"].uniq },
          "/roles",
          "The parameter “%s” carries two roles, so no reader could tell which is meant."
        )
      end

      def role_faults(document, path)
        vocabulary(document, path)
        role = Role.new(document, @by_name)
        values_against_rules(role, path)
        pattern(role, path) if role.structured?
        if role.required != "never" && role.vocabulary.closed? && role.vocabulary.entries.empty?
          fault(
            "#{path}/vocabulary",
            "#{role.name} is required and its vocabulary is closed but empty: no link could be right."
          )
        end
        if role.characters && !role.characters.include?(role.separator) && role.structured?
          fault(
            "#{path}/separator",
            "the separator “#{role.separator}” is not among the permitted characters of #{role.name}."
          )
        end
      rescue Error::UnusableDocument => error
        fault("#{path}/segments", error.message)
      end

      def vocabulary(document, path)
        values = document.dig("vocabulary", "values").to_a
        owners = {}
        values.each { |value| owners[value["value"]] = value["value"] }
        if owners.size < values.size
          fault(
            "#{path}/vocabulary/values",
            "a value stands there twice: “#{values.map { |value| value["value"] }.tally.find { |_, count| count > 1 }&.first}”."
          )
        end
        values.each_with_index do |value, number|
          aliases(value, owners, "#{path}/vocabulary/values/#{number}")
        end
      end

      # An alias that leads to a value which is itself an alias would never come to an end.
      def aliases(value, owners, path)
        value.fetch("aliases", []).each do |name|
          owner = owners[name]
          next owners[name] = value["value"] if owner.nil? || owner == value["value"]

          fault(
            "#{path}/aliases",
            (owner == name) ? "“#{name}” is an alias of “#{value["value"]}” and a value of its own: say which it is." : "“#{name}” is an alias of both “#{owner}” and “#{value["value"]}”."
          )
        end
      end

      def values_against_rules(role, path)
        role.vocabulary.entries.each_with_index do |entry, number|
          reason = refusal(role, entry.value) or next
          fault("#{path}/vocabulary/values/#{number}", "“#{entry.value}” is permitted but #{reason}.")
        end
      end

      def refusal(role, value)
        return "breaks the rule of #{role.letter_case} case" if role.fold(value) != value
        return "is longer than #{role.longest} characters" if role.longest && value.length > role.longest
        if role.characters && !role.characters.permit?(value)
          return "holds characters that #{role.name} does not permit"
        end

        "holds white space" if value.match?(/[[:space:]]/) && !role.free_text?
      end

      def pattern(role, path)
        examples = role.segments.examples
        if examples.empty?
          return fault("#{path}/segments", "No name can fit these segments: #{dead_end(role)}.")
        end

        reasons = examples.map { |name| refusal(role, name) }
        if reasons.all?
          fault(
            "#{path}/segments",
            "A name such as “#{examples.first}” fits the segments but #{reasons.first}."
          )
        end
      end

      def dead_end(role)
        empty = role.segments.list.find { |segment| !segment.optional? && segment.examples.empty? }
        empty ? "nothing fits the segment “#{empty.name}” (#{empty.expected})" : "they run into one another"
      end

      def pairs
        @document.fetch("pairs", []).each_with_index do |pair, number|
          %w[source medium].each do |role|
            vocabulary = @by_name.dig(role, "vocabulary") or next
            unless vocabulary["closed"] && vocabulary["values"].none? { |value| value["value"] == pair[role] }
              next
            end

            fault(
              "/pairs/#{number}/#{role}",
              "“#{pair[role]}” is not in the closed vocabulary of #{role}, so this pair could never be used."
            )
          end
        end
      end

      # A token that nobody fills would be recorded as it stands.
      def identifiers
        dialects = @document.fetch("dialects", []).map { |one| Dialect.new(one) }
        @document.fetch("identifiers", []).each_with_index do |one, number|
          next unless one["token"]

          token = IdentifierToken.new(one["token"], dialects, network: one["network"], source: one["source"])
          reason = token.fault
          fault("/identifiers/#{number}/token", "#{reason}.") if reason
        end
      end

      # Two rules of one scope must not say different things of one role.
      def rules
        @document.fetch("rules", []).each_with_index do |rule, number|
          path = "/rules/#{number}"
          next fault("#{path}/role", "“#{rule["role"]}” is no role.") unless @by_name.key?(rule["role"])

          scoped(rule, path)
          contradiction(rule, number)
        end
      end

      def scoped(rule, path)
        role = Role.new(@by_name[rule["role"]].merge(rule["changes"]), @by_name)
        if rule["changes"]["segments"] && role.segments.examples.empty?
          fault("#{path}/changes/segments", "No name can fit these segments: #{dead_end(role)}.")
        end
      rescue Error::UnusableDocument => error
        fault("#{path}/changes", error.message)
      end

      def contradiction(rule, number)
        earlier = @document["rules"].first(number).index do |other|
          other["role"] == rule["role"] &&
            other["scope"] == rule["scope"] &&
            rule["changes"].any? { |key, value| other["changes"].fetch(key, value) != value }
        end
        if earlier
          fault(
            "/rules/#{number}",
            "It contradicts rule #{earlier + 1}, which has the same scope and role: keep one of them."
          )
        end
      end
    end
  end
end
