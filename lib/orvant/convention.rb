# frozen_string_literal: true

module Orvant
  # The naming rules of one advertiser, read from a document (docs/schemas/convention.schema.json).
  class Convention
    # So many scopes of rules, and so many hosts, are remembered: more than any account has that is judged at
    # once.
    MOST_RULEBOOKS = 500
    MOST_HOSTS = 1_000
    # Addresses that stand in the lists that people look at.
    MOST_SHOWN = 1_500

    attr_reader :name, :note, :pairs, :channel_rules, :dialects, :own_hosts, :relay_hosts, :payment_hosts,
      :billed_hosts, :known_hosts, :judged_hosts, :partner_hosts, :mail_hosts, :social_hosts, :search_hosts,
      :thresholds, :exempt_kinds, :identifiers, :own_parameters, :personal_data, :rules, :slow_ms

    # How single-page applications write their routes.
    ROUTE = %r{\A!?/}

    # A permitted combination of source and medium, and the kinds of link it is for (none: all).
    PermittedPair = Struct.new(:source, :medium, :kinds, keyword_init: true)

    # A parameter that links of some kinds (none: all), of one source and of one network (nil: any) must
    # carry, or all that are paid for; and the token that fills it.
    Identifier = Struct.new(:parameter, :kinds, :source, :network, :paid, :token, keyword_init: true) do
      # @param kind [String, nil] of link
      # @param said [String, nil] its source
      # @param whose [String, nil] the network whose ad it is
      # @yieldreturn [Boolean] whether the link is paid for; asked only where it counts
      # @return [Boolean] whether such a link must carry it
      def asked_of?(kind, said, whose)
        (kinds.empty? || kinds.include?(kind)) &&
          (source.nil? || source == said) &&
          (network.nil? || network.casecmp?(whose.to_s)) &&
          (!paid || yield)
      end
    end

    # From when on a difference counts: clicks and claims below which nothing is said · sessions_share:
    # sessions a click · claims_ratio: conversions claimed for an order.
    Thresholds = Struct.new(:clicks, :sessions_share, :claims, :claims_ratio, keyword_init: true)
    THRESHOLDS = {clicks: 50, sessions_share: 0.5, claims: 10, claims_ratio: 1.3}.freeze

    # @param source [String, Hash] the document
    # @return [Convention]
    # @raise [Error::UnusableDocument] naming path and reason of each fault: of the schema, else of rules that
    #   contradict each other
    def self.read(source)
      document = Document.read(source, schema: :convention)
      faults = Consistency.new(document).faults
      raise Error::UnusableDocument, faults.join("\n") if faults.any?

      new(document)
    end

    # @param document [Hash] valid by the schema
    # @raise [Error::UnusableDocument] where segments cannot be used
    def initialize(document)
      @document = document
      @role_documents = document["roles"]
      @name = document["name"]
      @note = document["note"].to_s
      @pairs = document.fetch("pairs",
        []).map { |pair|
          PermittedPair.new(source: pair["source"], medium: pair["medium"], kinds: pair.fetch("kinds", []))
        }
      @channel_rules = ChannelRules.new(document["channels"])
      @dialects = document.fetch("dialects", []).map { |dialect| Dialect.new(dialect) }
      @exempt_kinds = document.fetch("exempt_kinds", [])
      @identifiers = document.fetch("identifiers", []).map { |one| identifier(one) }
      @own_parameters = document.fetch("own_parameters", []).to_h { |name| [name, true] }
      @no_account = document.fetch("no_account", []).to_h { |name| [name, true] }
      @personal_data = PersonalData.new(document.fetch("personal_data", {}))
      @rules = document.fetch("rules", []).map.with_index(1) do |rule, number|
        Rulebook::Rule.new(
          scope: rule["scope"],
          role: rule["role"],
          changes: rule["changes"],
          why: rule["why"].to_s,
          number: number
        )
      end
      @slow_ms = document.fetch("slow_ms", 3_000)
      @thresholds = Thresholds.new(**THRESHOLDS, **document.fetch("thresholds", {}).transform_keys(&:to_sym))
      @rulebooks = Memory.new(MOST_RULEBOOKS)
      @judged = Memory.new(MOST_HOSTS)
      @shown = Memory.new(MOST_SHOWN)
      @dialect_of = Memory.new(MOST_HOSTS)
      %w[own relay payment billed known judged partner mail social search].each do |kind|
        instance_variable_set(:"@#{kind}_hosts", Hosts.new(document.fetch("#{kind}_hosts", [])))
      end
    end

    # @param address [String]
    # @return [Array<Hash>] its parts (Anatomy) as JSON has them, nobody's data in them
    def anatomy(address)
      @shown.fetch(address) { Anatomy.of(Address.new(personal_data.mask(address)), self).map(&:to_h) }
    end

    # @param network [String]
    # @return [Dialect, nil]
    def dialect(network)
      name = network.to_s
      @dialect_of.fetch(name) { dialects.find { |one| one.network.casecmp?(name) } }
    end

    # @param name [String] of a parameter, decoded
    # @return [Boolean] whether some links must carry it as their identifier
    def identifier?(name)
      (@identifier_names ||= identifiers.to_h { |one| [one.parameter, true] }).key?(name)
    end

    # @param source [String]
    # @return [Array<String>] the mediums permitted with it
    def mediums_of(source)
      (@mediums ||= pairs.group_by(&:source).transform_values { |same| same.map(&:medium) }).fetch(source, [])
    end

    # @param role [String]
    # @return [Role, nil]
    def role(role) = everywhere.role(role)

    # @param kind [String, nil] the kind of link
    # @param account [String, nil] the account of its ad
    # @param network [String, nil] whose ad it is
    # @param shows [String, nil] what is printed: `words` or `code`
    # @param host [String]
    # @return [Rulebook] the rules as they stand for such links
    def rules_for(kind: nil, account: nil, network: nil, shows: nil, host: "")
      account = nil unless scoped?("account")
      network = nil unless scoped?("network")
      shows = nil unless scoped?("shows")
      host = nil unless scoped?("host")
      @rulebooks.fetch([host, kind, account, network, shows]) do
        rulebook(Rulebook::Scope.new(
          kind: kind,
          account: account,
          network: network,
          shows: shows,
          host: host
        ))
      end
    end

    # @param host [String] of a page on which a link was found
    # @return [Boolean] whether its links are to carry parameters: others' pages, or those of partners alone
    #   where they are listed
    def partner?(host) = !own_hosts.cover?(host) && (partner_hosts.names.empty? || partner_hosts.cover?(host))

    # @return [Array<Role>] without regard to rules for a scope
    def roles = everywhere.roles

    # @return [Hash{String => Role}] the role that each parameter name carries
    def carriers = everywhere.carriers

    # @param address [Address]
    # @param kind [String, nil] the kind of link
    # @return [Boolean] whether the rules apply: links to foreign hosts, unless they are to be judged, and
    #   exempt kinds are left alone
    def applies_to?(address, kind: nil) = !exempt_kinds.include?(kind) && judged?(address.host)

    # What of its document tells only how values are judged, and what it is called.
    OF_VALUES = %w[name note roles pairs channels rules thresholds slow_ms].freeze

    # @return [Array] all that tells which links and parameters are judged, and of which nothing is a rule for
    #   values
    def reach
      @reach ||= [roles.map(&:name), carriers.transform_values(&:name), @document.except(*OF_VALUES)]
    end

    # @param address [Address]
    # @param role [String]
    # @return [String, nil] the first value the address gives the role, decoded
    def value_in(address, role)
      names = self.role(role)&.carriers || []
      address.pairs.find { |pair| names.include?(pair.name) }&.value
    end

    # @param address [Address]
    # @return [Hash{String => String}] the value of each role that the address carries
    def values_in(address)
      roles.each_with_object({}) do |role, values|
        value = value_in(address, role.name)
        values[role.name] = value if value
      end
    end

    # @param host [String]
    # @return [Boolean] whether the advertiser or someone it works with answers there
    def ours?(host) = own_hosts.cover?(host) || relay_hosts.cover?(host)

    # @param host [String]
    # @return [Boolean] whether it shows pages of the advertiser's own, and does not only pass visitors on
    def shows_own?(host) = own_hosts.cover?(host) && !relay_hosts.cover?(host)

    # @param value [String] of a role, decoded
    # @return [Boolean] whether a token of some network stands in it
    def template?(value) = dialects.any? { |dialect| dialect.token_in(value) }

    # @param value [String] of a role, decoded
    # @return [Regexp, nil] what it becomes once its tokens are filled in; nil where it holds none
    def filled(value)
      literal = between_tokens(value)
      /\A#{literal.map { |text| Regexp.escape(text) }.join(".*")}\z/mi if literal.size > 1
    end

    # @param value [String] of a role, decoded
    # @return [Array<String>] what stands before, between and behind its tokens; the value alone where there
    #   are none
    def between_tokens(value)
      @tokens ||= Regexp.union(dialects.map(&:anywhere))
      dialects.empty? ? [value] : value.split(@tokens, -1)
    end

    # A page is its address as landed on, without what only tells where its visitors come from.
    #
    # @param address [Address]
    # @return [String] host, path, and those parameters that make it another page, in the order of their
    #   names; a fragment only where it is a route
    def page_of(address)
      own = address.pairs.reject { |pair| of_no_account?(pair.name) }.map(&:raw).sort
      route = address.fragment if address.fragment&.match?(ROUTE)
      [address.page, ("?#{own.join("&")}" if own.any?), ("##{route}" if route)].compact.join
    end

    # @return [String] where the document came from, for sentences
    def to_s = name

    private

    def identifier(said)
      one = Identifier.new(**{"kinds" => []}.merge(said).transform_keys(&:to_sym))
      one.token &&= IdentifierToken.new(one.token, dialects, network: one.network, source: one.source).written
      one
    end

    def of_no_account?(name)
      names = everywhere.names
      names.include?(name) || @no_account.key?(name) || !names.meant(name).nil?
    end

    def rulebook(scope)
      Rulebook.new(
        @role_documents,
        rules.select { |rule| rule.fits?(scope) },
        scope,
        identifiers: identifiers.map(&:parameter),
        others: own_parameters
      )
    end

    def everywhere = @everywhere ||= rules_for

    def scoped?(part)
      (@scoped ||= %w[account network shows host].to_h { |name|
        [name, rules.any? { |rule|
          rule.scope.key?(name)
        }]
      })[part]
    end

    def judged?(host)
      @judged.fetch(host) do
        (own_hosts.cover?(host) || judged_hosts.cover?(host)) && !relay_hosts.cover?(host)
      end
    end
  end
end
