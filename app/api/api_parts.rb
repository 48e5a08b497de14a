# frozen_string_literal: true

require "yaml"

# The rooms' parts of the API's OpenAPI document, put together. Needs nothing but Ruby, since the screens'
# types are made from it (`ruby app/api/api_parts.rb` prints it).
module ApiParts
  # What all rooms share comes first.
  FILES = Dir[File.expand_path("../*/openapi.yaml", __dir__)]
    .sort_by { |file| file.include?("/api/") ? "" : file }.freeze
  # What several parts add to.
  LISTS = %w[paths components schemas].freeze

  class << self
    # @return [Hash] the document
    def put_together = FILES.map { |file| YAML.safe_load_file(file) }.reduce { |all, part| add(all, part) }

    # @param all [Hash]
    # @param part [Hash]
    # @return [Hash] both; lists of the two are joined
    # @raise [ArgumentError] where both say the same thing
    def add(all, part)
      all.merge(part) do |key, ours, theirs|
        raise ArgumentError, "“#{key}” stands in two parts of the API's document." unless LISTS.include?(key)

        add(ours, theirs)
      end
    end
  end
end

puts ApiParts.put_together.to_yaml if $PROGRAM_NAME == __FILE__
