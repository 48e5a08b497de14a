# frozen_string_literal: true

module Orvant
  # The evidence of one link: its hops, from click to landing page.
  #
  # address: as given · outcome: one of OUTCOMES · final_address: the last address, requested or refused · status: of the last answer ·
  # reason: a sentence where it did not land · engine: `http` · hops: Array<Hop> · body: bytes of the landing page, not kept.
  Trail = Struct.new(:address, :outcome, :final_address, :status, :reason, :engine, :hops, :body, keyword_init: true) do
    # @return [Hash{String => Object}] for JSON
    def to_h
      {"address" => address, "outcome" => outcome, "final_address" => final_address, "status" => status, "reason" => reason,
       "engine" => engine, "hops" => hops.map(&:to_h)}
    end

    def landed? = outcome == "landed"

    # @return [Boolean] whether the last hop gave a page, good or bad
    def answered? = %w[landed broken].include?(outcome)
  end

  class Trail
    OUTCOMES = %w[landed broken unreachable loop too_many refused].freeze
    # What one hop did to one parameter.
    FATES = %w[kept altered dropped added repeated].freeze

    # One request and its answer. address: as requested · status · how: how it passed on (`status`), nil at the end · ms ·
    # params: Array<Fate>.
    Hop = Struct.new(:address, :status, :how, :ms, :params, keyword_init: true) do
      def to_h
        {"address" => address, "status" => status, "how" => how, "ms" => ms, "params" => params.map(&:to_h)}
      end
    end

    # What a hop did to one parameter: name, decoded value before and after (nil where there is none), and the fate.
    Fate = Struct.new(:name, :before, :after, :fate, keyword_init: true) do
      def to_h
        {"name" => name, "before" => before, "after" => after, "fate" => fate}
      end
    end

    # @param document [Hash] what `to_h` gave
    # @return [Trail]
    def self.from_h(document)
      hops = document["hops"].map do |hop|
        Hop.new(**hop.slice("address", "status", "how", "ms").transform_keys(&:to_sym),
          params: hop["params"].map { |fate| Fate.new(**fate.transform_keys(&:to_sym)) })
      end
      new(**document.slice("address", "outcome", "final_address", "status", "reason",
        "engine").transform_keys(&:to_sym), hops: hops)
    end
  end
end
