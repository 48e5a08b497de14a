# frozen_string_literal: true

module Orvant
  module Browser
    # One request to somebody whom no signature names, answered here and kept: a person decides who its sender
    # is.
    #
    # host · address: cut at 2,000 characters · method · way: in a word for people · body: the first 500
    # characters · page: the address it was sent from · step: of a rehearsal, from 1 · at: milliseconds since
    # the visit began.
    Held = Struct.new(:host, :address, :method, :way, :body, :page, :step, :at, keyword_init: true) do
      # @param request [Request]
      # @param moment [Hash] page, step and at
      # @return [Held]
      def self.of(request, **moment)
        address = request.address
        new(
          host: address.host,
          address: address.raw[0, Cut::ADDRESS],
          method: request.method,
          way: request.way,
          body: request.body.byteslice(0, Cut::CELL).force_encoding(Encoding::UTF_8).scrub("�"),
          **moment
        )
      end

      # @return [Boolean] whether it is a document, which would have taken the place of the page
      def document? = %w[document form].include?(way)

      # @return [Hash{String => Object}] for JSON
      def to_h = members.to_h { |name| [name.to_s, self[name]] }
    end
  end
end
