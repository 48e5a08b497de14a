# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # One value of one role on an address, with what is wrong with it. Later faults are judged as if the
      # earlier ones were mended, so that one root makes one finding. It depends on what is written and on the
      # rules alone, so that links of one scope share it.
      class Reading
        # Words that can hold no blank, escape, token or mail address, as most values are. Delimiters of
        # tokens hold other signs by their schema.
        WORDS = /\A[a-z0-9]+(?:-[a-z0-9]+)*\z/

        attr_reader :pair, :role, :convention, :network

        # For what links it is read. kind: of link · network: whose ad it is, or nil · rules: the Rulebook of
        # the link's scope, of which another role may be the value's place.
        Scope = Struct.new(:convention, :kind, :network, :rules)

        # What is written tells it all, so links that write the same share a reading.
        #
        # @param pair [Address::Pair]
        # @param role [Convention::Role] as it stands for the link's scope
        # @param scope [Scope]
        # @return [Reading]
        def self.of(pair, role, scope)
          network = scope.network
          scope.rules.remember(network ? "#{network} #{pair.raw}" : pair.raw) { new(pair, role, scope) }
        end

        # @param pair [Address::Pair]
        # @param role [Convention::Role] as it stands for the link's scope
        # @param scope [Scope]
        def initialize(pair, role, scope)
          @pair = pair
          @role = role
          @convention = scope.convention
          @kind = scope.kind
          @network = scope.network
          @rules = scope.rules
          @scope = scope
        end

        # @param value [String, Address::Pair::Written] that may stand in its place
        # @return [Boolean] whether nothing would be wrong with it
        def takes?(value)
          written = Address::Pair.new("#{role.carrier}=#{Address::Pair.written(value)}")
          Reading.of(written, role, @scope).sound?
        end

        # @return [String] decoded, as reports record it
        def value = pair.value

        # @return [Boolean] whether the name is not the carrier it was meant to be
        def misnamed?
          return @misnamed if defined?(@misnamed)

          @misnamed = !role.carriers.include?(pair.name)
        end

        # @return [Array<Symbol>] what is wrong with the value, by stages: `:empty`, `:personal`, `:unfilled`,
        #   `:unknown_token` (each alone), `:encoding`, `:whitespace`, `:characters`, `:case`, then one of
        #   `:near_miss`, `:wrong_role`, `:unknown_value`, `:pattern`; `:too_long`
        def faults = @faults ||= find_faults.freeze

        # @return [Boolean] whether nothing at all is wrong with the value by itself
        def sound? = faults.empty?

        # @return [Integer] the same for all readings that lead to the same codes and weights
        def mark = @mark ||= @rules.number([role.name, faults, misnamed?, (pair.raw if telling?)])

        # @return [Boolean] whether the very value counts: channels depend on it
        def telling?
          LinkSubject::LEADING.include?(role.name) || convention.channel_rules.fields.include?(role.name)
        end

        # @return [Boolean] whether the value can be judged further than whether there is one
        def legible? = !blank? && !personal && !tokens.unfilled && !tokens.unknown

        def blank? = value.gsub(Tidy::ANY_INVISIBLE, "").match?(/\A[[:space:]]*\z/)

        # @return [PersonalData::Hit, nil]
        def personal
          return @personal if defined?(@personal)

          @personal = convention.personal_data.find(pair.raw_value, field: pair.name)
        end

        # @return [Tokens]
        def tokens
          ad = @kind == "ad"
          @tokens ||= Tokens.new(pair, wording.plain, convention, network: network, ad: ad, role: role)
        end

        # @return [Wording]
        def wording = @wording ||= Wording.new(self)

        # @return [String] the value that was meant, as far as it can be told
        def corrected = @corrected ||= tokens.templated? ? tokens.show(folded) : meant_value

        # @return [String, Address::Pair::Written] the same as it is to be written
        def rewritten = tokens.templated? ? Address::Pair::Written.new(tokens.written(folded)) : corrected

        # @return [String, nil] the permitted value of which this is another name or a slip
        def meant
          return @meant if defined?(@meant)

          @meant = role.vocabulary.known(folded) ||
            role.vocabulary.near(folded) ||
            (role.segments&.mend(folded) unless role.vocabulary.closed?)
        end

        # @return [Convention::Role, nil] another role of which the value is a value
        def rightful_role
          return @rightful_role if defined?(@rightful_role)

          @rightful_role = (@rules.roles - [role]).find { |other| other.name != role.name && owns?(other) }
        end

        private

        def folded = wording.folded

        def meant_value = (sound? || role.vocabulary.include?(folded)) ? folded : meant || folded

        def owns?(other)
          other.vocabulary.known(folded) ||
            (other.structured? && other.segments.list.size > 1 && other.segments.match(folded).complete?)
        end

        def find_faults
          return plain_words if pair.raw_value.match?(WORDS) && !personal
          return [:empty] if blank?
          return [:personal] if personal
          return [:unfilled] if tokens.unfilled
          return [:unknown_token] if tokens.unknown
          if tokens.misplaced
            return [(role.structured? && !role.vocabulary.closed?) ? :pattern : :unknown_value]
          end
          return [:encoding] if wording.lost?

          legibly(wording.slips)
        end

        def plain_words
          return legibly([:characters]) unless role.characters.nil? || role.characters.permit?(value)

          @wording = Wording.new(self, right: value)
          legibly([])
        end

        # What is wrong with a value that can be read. Damaged spelling is not also a wrong value.
        def legibly(spelling)
          damaged = spelling.any?
          spelling << :case if folded != wording.legal
          spelling << place_fault unless damaged || tokens.templated?
          spelling << :too_long if role.longest && tokens.sampled(folded).length > role.longest
          spelling.compact
        end

        # Vocabulary before segments: a value that is permitted needs no structure.
        def place_fault
          return if role.acceptable?(folded)
          return :near_miss if role.vocabulary.known(folded) || role.vocabulary.near(folded)
          return :wrong_role if (role.vocabulary.closed? || role.structured?) && rightful_role
          return :unknown_value if role.vocabulary.closed?

          :pattern if role.structured?
        end
      end
    end
  end
end
