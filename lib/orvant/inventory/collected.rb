# frozen_string_literal: true

module Orvant
  module Inventory
    # What a reader made of its source. items: sightings, or rows of traffic · rejected:
    # Array<Table::Rejected> · apart: Array<Apart>, what is no link to audit · notes: sentences · columns:
    # field => name of the column it was read from · header: names of all columns · encoding of a text file ·
    # pages: Array<SitePage>, of a site · partial: whether the source holds more than was read.
    Collected = Struct.new(
      :items,
      :rejected,
      :apart,
      :notes,
      :columns,
      :header,
      :encoding,
      :pages,
      :partial,
      keyword_init: true
    ) do
      def initialize(
        items: [], rejected: [], apart: [], notes: [], columns: {}, header: [], encoding: nil, pages: [],
        partial: false
      )
        super
      end

      # @return [Array<Sighting>]
      def sightings = items

      # @return [Array<Traffic::Row>]
      def rows = items
    end
  end
end
