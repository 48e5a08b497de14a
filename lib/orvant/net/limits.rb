# frozen_string_literal: true

module Orvant
  module Net
    # The bounds of every request. seconds: for one answer · body: bytes kept of a body (the rest is not read) · hops: on one trail ·
    # per_host: requests to one host at once · pause: seconds between two requests to one host · at_once: links followed at once.
    Limits = Struct.new(:seconds, :body, :hops, :per_host, :pause, :at_once, keyword_init: true) do
      # @return [Limits] what is used unless a workspace says otherwise
      def self.usual
        new(seconds: 15, body: 262_144, hops: 20, per_host: 8, pause: 0.0, at_once: 64)
      end
    end
  end
end
