# frozen_string_literal: true

module Orvant
  # A list of host names, in whatever spelling, some with a leading `*.` that covers every host below a name
  # (not the name itself).
  #
  #   Orvant::Hosts.new(["*.example"]).cover?("a.b.example") # => true
  class Hosts
    attr_reader :names

    # @param names [Array<String>]
    def initialize(names)
      @names = names.map { |name| Address::HostName.normal(name) }.freeze
      @rank = @names.each_with_index.to_h
      @wild = @names.any? { |name| name.start_with?("*") }
    end

    # @param host [String]
    # @return [Boolean]
    def cover?(host) = !match(host).nil?

    # @param host [String]
    # @return [String, nil] the most specific entry that covers the host: the exact name, else the longest
    #   wildcard
    def match(host)
      name = Address::HostName.normal(host)
      return name if @rank.key?(name)

      wildcard(name) if @wild
    end

    private

    # Of the names below which the host stands the longest; a star alone covers all.
    def wildcard(name)
      while (dot = name.index("."))
        name = name[dot + 1..]
        return "*.#{name}" if @rank.key?("*.#{name}")
      end
      "*" if @rank.key?("*")
    end
  end
end
