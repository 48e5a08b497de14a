# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # What a link must carry, by what it is and where it leads.
      class Demands
        # @param link [LinkSubject]
        def initialize(link)
          @link = link
          @convention = link.convention
          @kind = link.kind
          @carried = link.carried
        end

        # @return [Boolean] whether the link is to carry what is required: of pages, only partners' are asked
        #   for it, and of one that nobody knows nothing is said unless it carries something
        def asked?
          pages = @link.whereabouts.pages or return true
          if pages.empty?
            @carried.placed.any? || @carried.foreign.any? { |_, one| one.near.any? }
          else
            pages.any? { |page| @convention.partner?(page.host) }
          end
        end

        # @param role [Convention::Role]
        # @return [Boolean] whether this link must carry it
        def required?(role) = asked? && required_of?(role)

        # @return [Array<Convention::Role>] the required roles without a carrier
        def missing_roles
          lacking = @link.rules.demanding.reject { |role| @carried.role?(role.name) }
          (lacking.empty? || !asked?) ? [] : lacking.select { |role| required_of?(role) }
        end

        # @return [Array<Convention::Identifier>] what a link of this kind and source must carry
        def identifiers
          source = @carried.mended["source"]
          @convention.identifiers.select { |one| one.asked_of?(@kind, source, network) { paid? } }
        end

        # @param pair [Address::Pair]
        # @return [Convention::Identifier, nil] the one that it carries on an ad with another token than the
        #   one that is demanded
        def demanded_otherwise(pair)
          return unless @kind == "ad"

          identifiers.find do |one|
            one.token && one.parameter == pair.name && other_token?(pair.value, one.token)
          end
        end

        # @param role [String] `source` or `medium`
        # @return [String, nil] the one value on which all permitted pairs agree that fit what the link says
        #   and its kind
        def only_value(role)
          values = @convention.pairs.select { |pair| fits?(pair) }
            .map { |pair| {"source" => pair.source, "medium" => pair.medium}[role] }.uniq
          values.first if values.size == 1
        end

        # @return [Boolean] a link of the kind `ad`, or one whose values lead to a paid channel
        def paid? = @kind == "ad" || @convention.channel_rules.paid?(channel_meant)

        private

        def network = @link.whereabouts.network

        def channel_meant = @channel_meant ||= @carried.channel(@carried.mended).channel

        def required_of?(role)
          role.required?(kind: @kind, channel: channel_meant, paid: paid?, network: network)
        end

        # A literal value counts as carried.
        def other_token?(value, demanded)
          return false if value == demanded || same_token?(value, demanded)

          @convention.dialects.any? { |one| one.token_in(value) } || !Convention::Placeholder.in(value).nil?
        end

        # Some networks take the names of their tokens in any letter case.
        def same_token?(value, demanded)
          dialect = @convention.dialect(network) or return false
          one, other = [value, demanded].map { |text| dialect.token(dialect.inner(text)) }
          !one.nil? && one == other
        end

        def fits?(pair)
          return false unless pair.kinds.empty? || pair.kinds.include?(@kind)

          said = {"source" => pair.source, "medium" => pair.medium}
          return false if @kind == "ad" && !@convention.channel_rules.paid?(@carried.channel(said).channel)

          said.all? do |role, value|
            # An empty value says nothing against any.
            @carried.readings_of(role).all? { |reading| reading.blank? || reading.corrected == value }
          end
        end
      end
    end
  end
end
