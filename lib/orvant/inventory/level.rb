# frozen_string_literal: true

module Orvant
  module Inventory
    # What one level of an ad account sets. name: one of NAMES · landing, pattern, tail: as written, "" where
    # it sets none · own: Hash of its own tokens to their values.
    Level = Struct.new(:name, :landing, :pattern, :tail, :own, keyword_init: true) do
      def initialize(name:, landing: "", pattern: "", tail: "", own: {})
        super
      end
    end

    class Level
      # From the top down; the lowest that sets something wins.
      NAMES = %w[account campaign group ad].freeze

      # @param documents [Array<Hash>, nil] as ClickAddress#to_h keeps them
      # @return [Array<Level>]
      def self.of_documents(documents)
        documents.to_a.map { |one| new(**one.slice(*members.map(&:to_s)).transform_keys(&:to_sym)) }
      end
    end
  end
end
