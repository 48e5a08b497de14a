# frozen_string_literal: true

require "json"

# What `bin/orvant learn` makes of files of links.
class LearningReport
  # A host on which so many of the links lead is taken for the advertiser's own.
  OWN_SHARE = 0.1

  # @param files [Array<Array(String, String)>] names and bytes
  # @param kind [String, nil] what the files hold; guessed where nil
  # @raise [Orvant::Error::UnusableTable] where nothing can be learned
  def initialize(files, kind: nil)
    addresses = files.flat_map do |name, bytes|
      Orvant::Inventory::Source.read(
        kind || Orvant::Inventory::Source.guess(bytes, name),
        bytes,
        filename: name
      ).sightings.map(&:address)
    end
    addresses = addresses.select do |address|
      address.pairs.any? { |pair| Orvant::Convention::Learning::STANDARD.value?(pair.name) }
    end
    if addresses.empty?
      raise Orvant::Error::UnusableTable,
        "None of the links carries a parameter to learn from (#{Orvant::Convention::Learning::STANDARD.values.join(", ")})."
    end

    seen = addresses.map do |address|
      Orvant::Convention::Learning::Seen.new(
        values: address.pairs.reverse.to_h { |pair| [pair.name, pair.value] },
        links: 1,
        sessions: 0
      )
    end
    @learning = Orvant::Convention::Learning.new(seen)
    @hosts = addresses.map(&:host).tally.select { |_, count| count >= OWN_SHARE * addresses.size }
      .sort_by { |_, count| -count }.map(&:first)
  end

  # @return [String] a whole convention
  def json = JSON.pretty_generate(@learning.document(hosts: @hosts))

  # @return [Array<String>] a proposal a line, with what supports it and what it would find fault with
  def text
    @learning.proposals.map do |one|
      faults =
        if one.flags["links"].zero?
          "none differs"
        else
          "#{one.flags["links"]} differ: #{one.flags["values"].join(", ")}"
        end
      "#{one.role || "pairs"} #{one.rule unless one.rule == "pairs"}: #{one.sentence} (#{Orvant::Words.counted(one.support["links"], "link")}; #{faults})"
    end
  end
end
