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

      labels = name.split(".")
      (1..labels.size).lazy.map { |count| "*.#{labels.drop(count).join(".")}".chomp(".") }
        .find { |entry| @rank.key?(entry) }
    end
  end
end
