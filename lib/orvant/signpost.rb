# frozen_string_literal: true

module Orvant
  # A friendly path on a host of the workspace's own, and the full link that it leads to.
  #
  # host, path: where it stands · target: the full link · pass_on: `keep` hands on parameters that the target
  # does not have, `none` hands on nothing · ends: the last Date on which it leads there, or nil · id.
  Signpost = Struct.new(:id, :host, :path, :target, :pass_on, :ends, keyword_init: true) do
    # @param query [String, nil] of the request
    # @return [String] where to send the visitor: what the link says itself is never overwritten
    def location(query)
      return target if pass_on != "keep" || query.to_s.empty?

      link = Orvant::Address.new(target)
      own = link.pairs.map(&:name)
      added = Orvant::Address::Pair.split(query).reject { |pair| own.include?(pair.name) }.map(&:raw)
      return target if added.empty?

      [
        link.without_fragment.raw,
        link.query.to_s.empty? ? "?" : "&",
        added.join("&"),
        link.fragment && "##{link.fragment}"
      ].compact.join.sub("??", "?")
    end

    # @param day [Date]
    # @return [Boolean] whether it leads nowhere any more
    def ended?(day) = !ends.nil? && day > ends
  end

  class Signpost
    PATH = %r{\A/[A-Za-z0-9][A-Za-z0-9/_-]{0,99}\z}
    PASSING_ON = %w[keep none].freeze
    # Characters of short codes: none that look alike.
    CODE = "abcdefghjkmnpqrstuvwxyz23456789".chars.freeze

    class << self
      # @param length [Integer]
      # @param random [Random]
      # @return [String] a short code as path
      def code(length = 5, random: Random) = "/#{Array.new(length) { CODE[random.rand(CODE.size)] }.join}"

      # @param path [String] as a visitor typed it
      # @return [String] as it is looked up: without regard to letter case and a slash at the end
      def normal(path) = path.downcase.sub(%r{(?<=.)/+\z}, "")
    end
  end
end
