# frozen_string_literal: true

module Orvant
  module Browser
    # What may leave a sealed browser: whatever goes to the advertiser's own hosts, and what a page needs of
    # others to be shown: documents, scripts, styles and fonts, and data of the very host that the page in the
    # window came from. Everything else is answered here, and so is whatever a signature names, wherever it
    # goes.
    class Seal
      NEEDED = %w[Document Script Stylesheet Font].freeze
      # What a page reads to know what to show, or where to send its visitor.
      DATA = %w[XHR Fetch].freeze

      # leaves: whether the request may leave · signature: of the tag that it is a signal of, or nil.
      Verdict = Struct.new(:leaves, :signature, keyword_init: true)

      # @param own [Hosts] hosts to which everything may go but signals
      # @param signatures [Array<Signal::Signature>]
      # @param through [Hosts] others' hosts that a person has let through, since pages need them
      # @param collecting [Hosts] collection hosts of one's own, to which a person has said that signals are
      #   to be sent
      def initialize(own:, signatures: [], through: Hosts.new([]), collecting: Hosts.new([]))
        @collecting = collecting
        @own = own
        @signatures = signatures
        @through = through
      end

      # @param request [Request]
      # @return [Verdict]
      def verdict(request)
        signature = @signatures.find { |one| one.on_wire?(request.address) }
        Verdict.new(
          leaves: signature.nil? && (known?(request.address.host) || needed?(request)),
          signature: signature
        )
      end

      # @param request [Request] a signal
      # @return [Boolean] whether it is sent, once, to its collection point, which is one's own
      def delivers?(request) = @collecting.cover?(request.address.host)

      # @param host [String]
      # @return [Boolean] whether everything may go there but signals
      def known?(host) = @own.cover?(host) || @through.cover?(host)

      private

      def needed?(request)
        return false if request.method != "GET" || request.socket?
        return request.home == true if DATA.include?(request.purpose)

        NEEDED.include?(request.purpose) &&
          (request.purpose != "Document" || !(request.form || request.context == "window"))
      end
    end
  end
end
