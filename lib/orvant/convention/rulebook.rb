# frozen_string_literal: true

module Orvant
  class Convention
    # The rules as they stand for links of one scope: where rules are given for a kind, an account or a host,
    # the most specific wins.
    class Rulebook
      # What a link is judged by: kind, account, network and what is printed (`words` or `code`) as its
      # sighting says, host as it is written.
      Scope = Struct.new(:kind, :account, :network, :shows, :host, keyword_init: true)

      # The bound of what is remembered: links of one campaign repeat their parameters.
      REMEMBERED = 10_000

      # A rule for a scope. scope: Hash of `kind`, `account`, `network`, `shows`, `host` · role · changes:
      # Hash of what it says instead · why · number: from 1.
      Rule = Struct.new(:scope, :role, :changes, :why, :number, keyword_init: true) do
        # @param scope [Scope]
        # @return [Boolean]
        def fits?(link)
          scope.all? do |part, value|
            (part == "host") ? Hosts.new([value]).cover?(link.host.to_s) : link[part].to_s.casecmp?(value)
          end
        end

        # @return [Array<Integer>] the more parts a scope names the more specific it is; among equals host
        #   before account before kind
        def precedence
          [
            scope.size,
            scope.key?("host") ? 1 : 0,
            scope.key?("account") ? 1 : 0,
            scope["host"].to_s.start_with?("*") ? 0 : 1,
            number
          ]
        end

        # @return [String] the scope in words
        def to_s = scope.map { |part, value| "#{part} #{value}" }.join(", ")
      end

      attr_reader :roles, :applied, :scope, :names

      # @param documents [Array<Hash>] of the roles
      # @param rules [Array<Rule>] those that fit, in any order
      # @param scope [Scope]
      # @param identifiers [Array<String>] names of required identifiers
      # @param others [Hash{String => true}] names of the site's own parameters
      # @raise [Error::UnusableDocument]
      def initialize(documents, rules, scope, identifiers: [], others: {})
        @scope = scope
        @applied = rules.sort_by(&:precedence)
        by_name = documents.to_h { |document| [document["role"], document] }
        @roles = documents.map do |document|
          changes = @applied.select { |rule| rule.role == document["role"] }.map(&:changes)
          Role.new(document.merge(*changes), by_name)
        end
        @names = Names.new(carriers.keys + identifiers, others, standard: standard)
        @remembered = Memory.new(REMEMBERED)
      end

      # @return [Hash{String => Role}] the role that each parameter name carries
      def carriers
        @carriers ||= roles.flat_map { |role| role.carriers.map { |name| [name, role] } }.to_h
      end

      # @return [Array<Role>] those that some links must carry
      def demanding = @demanding ||= roles.reject { |role| role.required == "never" }

      # @param name [String]
      # @return [Role, nil]
      def role(name) = (@by_name ||= roles.to_h { |role| [role.name, role] })[name]

      # Keeps what was worked out for a text, since many links say the same.
      #
      # @param text [String]
      # @return what the block gave for it the first time
      def remember(text, &) = @remembered.fetch(text, &)

      # @param thing [Object]
      # @return [Integer] a number for it, the same for equal things
      def number(thing) = (@numbers ||= {})[thing] ||= @numbers.size

      # @return [Array<Hash>] for each role the rules that apply, the winning one last: role, scope, changes,
      #   why
      def explain
        roles.map do |role|
          own = applied.select { |rule| rule.role == role.name }
          {
            "role" => role.name,
            "rules" => own.map { |rule|
              {
                "scope" => rule.to_s,
                "changes" => rule.changes,
                "why" => rule.why,
                "number" => rule.number
              }
            }
          }
        end
      end

      private

      # Names of the open standard, where this workspace uses others.
      def standard
        Learning::STANDARD.filter_map { |role, name|
          (carrier = role(role)&.carrier) &&
            !carriers.key?(name) &&
            [name, carrier]
        }.to_h
      end
    end
  end
end
