# frozen_string_literal: true

require "json_schemer"
require_relative "api_parts"

# The OpenAPI document of the API, put together of the rooms' parts: which operation a request means, and what
# that operation takes.
class ApiDocument
  METHODS = %w[get post put patch delete].freeze

  # method: of HTTP, in lower case · template: its path · summary: what it does · parameters: Array<Hash>, as
  # the document has them · body: what it takes, nil where nothing · responses · role: the least that it asks
  # of whoever wants it · in_person: whether a key may not
  PARTS = %i[method template summary parameters body responses role in_person].freeze
  Operation = Struct.new(*PARTS, keyword_init: true) do
    # @return [String] as people write it
    def to_s = "#{method.upcase} #{template}"

    # @return [Hash, nil] the schema of a JSON body
    def json = body&.dig("content", "application/json", "schema")

    # @return [Hash{String => Hash}] the parameters of a place (`path`, `query`) by name
    def parameters_in(place)
      parameters.select { |one| one["in"] == place }.to_h { |one| [one["name"], one] }
    end
  end

  # @return [Hash] what refers to a component still does
  attr_reader :document

  # @return [Array<Operation>]
  attr_reader :operations

  # @return [ApiDocument] the application's own
  def self.own = @own ||= new(ApiParts.put_together)

  # @param document [Hash]
  def initialize(document)
    @document = document
    @operations = document["paths"].flat_map { |template, item| operations_at(template, item) }
    @paths = by_pattern
    @schemers = {}
  end

  # @param method [String] of HTTP
  # @param path [String] as requested, without its query
  # @return [Array(Operation, Hash{String => String}), nil] the operation and its path parameters, still
  #   encoded; nil where there is none
  def find(method, path)
    @paths.each do |pattern, operations|
      found = pattern.match(path) or next
      operation = operations[method.downcase]
      return operation && [operation, found.named_captures]
    end
    nil
  end

  # @param schema [Hash] of this document
  # @return [JSONSchemer::Schema] which finds its references in this document
  def schemer(schema)
    @schemers[schema.object_id] ||= JSONSchemer.schema({
      "$ref" => "#/it",
      "it" => schema,
      "components" => @document["components"]
    })
  end

  private

  # Literal paths before those with parameters: `/sweeps/reach` is no sweep.
  def by_pattern
    @operations.group_by(&:template).sort_by { |template, _| template.count("{") }
      .map { |template, same| [pattern(template), same.to_h { |one| [one.method, one] }] }
  end

  def pattern(template)
    parts = template.split(/\{(\w+)\}/).each_slice(2).map do |text, name|
      Regexp.escape(text) + (name ? "(?<#{name}>[^/]+)" : "")
    end
    /\A#{parts.join}\z/
  end

  def operations_at(template, item)
    item.slice(*METHODS).map do |method, one|
      Operation.new(method: method,
        template: template,
        summary: one["summary"],
        parameters: [*item["parameters"], *one["parameters"]].map { |given| resolved(given) },
        body: one["requestBody"],
        responses: one["responses"].transform_values { |given| resolved(given) },
        role: one.fetch("x-role"), in_person: one.fetch("x-in-person", false))
    end
  end

  # @param given [Hash] a parameter or an answer, or where it stands
  def resolved(given)
    given.key?("$ref") ? @document.dig(*given["$ref"].delete_prefix("#/").split("/")) : given
  end
end
