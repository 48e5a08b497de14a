# frozen_string_literal: true

module Orvant
  module Net
    # The bounds of every request. seconds: for one answer · trail_seconds: for one trail · body: bytes kept
    # of a body, decompressed (the rest is not read) · hops: on one trail · per_host: requests to one host at
    # once · pause: seconds between two requests to one host · at_once: links followed at once · tries: how
    # often a host that asks for patience is asked · patience: the longest wait it is granted, in seconds, and
    # the longest delay after which a page may still move on by itself · backoff: the first wait where it
    # names none · hosts: Hash of host and its own per_host and pause · contact: what Orvant says of whom to
    # write to.
    Limits = Struct.new(:seconds,
      :trail_seconds,
      :body,
      :hops,
      :per_host,
      :pause,
      :at_once,
      :tries,
      :patience,
      :backoff,
      :hosts,
      :contact,
      keyword_init: true) do
      # @return [Limits] what is used unless a workspace says otherwise
      def self.usual
        new(
          seconds: 15,
          trail_seconds: 60,
          body: 262_144,
          hops: 20,
          per_host: 8,
          pause: 0.0,
          at_once: 64,
          tries: 3,
          patience: 10,
          backoff: 0.5,
          hosts: {},
          contact: ""
        )
      end

      # @param host [String]
      # @return [Limits] with what is its own
      def of(host)
        hosts.key?(host) ? dup.tap { |own| hosts[host].each { |name, value| own[name] = value } } : self
      end
    end
  end
end
