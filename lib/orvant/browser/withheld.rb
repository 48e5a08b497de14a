# frozen_string_literal: true

module Orvant
  module Browser
    # What a window's page and its frames were not given.
    class Withheld
      # What is kept of it.
      MOST = 2_000
      REMEDY = "Among the senders, under Tags, a person can let it through."

      # held: all of it · undecided: what the page now in the window asked for, and whose answer may decide
      # what it does
      attr_reader :held, :undecided

      def initialize
        @held = []
        @undecided = []
        @homes = Set.new
      end

      # The gate tells of each document that the page in the window is to be.
      #
      # @param host [String]
      def come_from(host)
        @homes << host
        @undecided = []
      end

      # @param host [String]
      # @return [Boolean] whether the page in the window came from there, or is about to
      def home?(host) = @homes.include?(host)

      # @param request [Request] to nobody knows whom, answered here
      # @param moment [Hash] page, step and at
      def take(request, **moment)
        return if @held.size >= MOST

        @held << Held.of(request, **moment)
        @undecided << @held.last if request.decides?
      end

      # The gate tells of a document that the window was to be given, and was not.
      #
      # @param request [Request]
      # @param signature [Signal::Signature, nil] of the tag that it is a signal of
      def keep_in(request, signature)
        @kept_in = [request.address, unsent(request, signature)]
      end

      # @param address [String]
      # @return [String, nil] why it was not asked for, where it is the last document that the window was not
      #   given
      def kept_in(address)
        kept, why = @kept_in
        why if kept && kept.raw == Request.line(address)
      end

      private

      def unsent(request, signature)
        host = request.address.host
        return "#{host} was not asked: what is sent there is a signal of #{signature.name}." if signature
        return "The page sends a form to #{host}, which is held. #{REMEDY}" if request.way == "form"

        "#{host} was not asked for the page, which is held. #{REMEDY}"
      end
    end
  end
end
