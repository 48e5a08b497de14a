# frozen_string_literal: true

module Orvant
  # The naming rules of one advertiser, read from a document (docs/schemas/convention.schema.json).
  class Convention
    attr_reader :name, :note, :roles, :pairs, :channel_rules, :dialects, :own_hosts, :relay_hosts, :payment_hosts,
      :billed_hosts, :known_hosts, :exempt_kinds, :identifiers, :slow_ms

    # A permitted combination of source and medium, and the kinds of link it is for (none: all).
    PermittedPair = Struct.new(:source, :medium, :kinds, keyword_init: true)

    # A parameter that links of some kinds (none: all) and of one source (nil: any) must carry, and the token that fills it.
    Identifier = Struct.new(:parameter, :kinds, :source, :token, keyword_init: true)

    # @param source [String, Hash] the document
    # @return [Convention]
    # @raise [Error::UnusableDocument]
    def self.read(source)
      new(Document.read(source, schema: :convention))
    end

    # @param document [Hash] valid by the schema
    def initialize(document)
      @name = document["name"]
      @note = document["note"].to_s
      @roles = document["roles"].map { |role| Role.new(role) }
      @pairs = document.fetch("pairs",
        []).map { |pair| PermittedPair.new(source: pair["source"], medium: pair["medium"], kinds: pair.fetch("kinds", [])) }
      @channel_rules = ChannelRules.new(document["channels"])
      @dialects = document.fetch("dialects", []).map { |dialect| Dialect.new(dialect) }
      @exempt_kinds = document.fetch("exempt_kinds", [])
      @identifiers = document.fetch("identifiers", []).map { |one| Identifier.new(**{"kinds" => []}.merge(one).transform_keys(&:to_sym)) }
      @slow_ms = document.fetch("slow_ms", 3_000)
      %w[own relay payment billed known].each { |kind| instance_variable_set(:"@#{kind}_hosts", Hosts.new(document.fetch("#{kind}_hosts", []))) }
    end

    # @param network [String]
    # @return [Dialect, nil]
    def dialect(network) = dialects.find { |dialect| dialect.network.casecmp?(network.to_s) }

    # @param role [String]
    # @return [Role, nil]
    def role(role) = roles.find { |known| known.name == role }

    # @return [Hash{String => Role}] the role that each parameter name carries
    def carriers
      @carriers ||= roles.flat_map { |role| role.carriers.map { |name| [name, role] } }.to_h
    end

    # @param address [Address]
    # @param kind [String, nil] the kind of link
    # @return [Boolean] whether the rules apply: links to foreign hosts and exempt kinds are left alone
    def applies_to?(address, kind: nil)
      own_hosts.cover?(address.host) && !relay_hosts.cover?(address.host) && !exempt_kinds.include?(kind)
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

    # @return [String] where the document came from, for sentences
    def to_s = name
  end
end
