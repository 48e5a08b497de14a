# frozen_string_literal: true

require "json_schemer"
require "yaml"

# The OpenAPI document of the API: which operation a request means, and what that operation takes.
class ApiDocument
  FILE = File.join(__dir__, "openapi.yaml")

  # template: its path · parameters: Array<Hash>, as the document has them · body: what it takes, nil where
  # nothing · responses role: the least that it asks of whoever wants it · in_person: whether a key may not
  Operation = Struct.new(:template, :parameters, :body, :responses, :role, :in_person, keyword_init: true) do
    # @return [Hash, nil] the schema of a JSON body
    def json = body&.dig("content", "application/json", "schema")

    # @return [Hash{String => Hash}] the parameters of a place (`path`, `query`) by name
    def parameters_in(place)
      parameters.select { |one| one["in"] == place }.to_h { |one| [one["name"], one] }
    end
  end

  # @return [Hash]
  attr_reader :document

  # @return [ApiDocument] the application's own
  def self.own = @own ||= new(YAML.safe_load_file(FILE))

  # @param document [Hash]
  def initialize(document)
    @document = document
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
    @document["paths"].sort_by { |template, _| template.count("{") }
      .map { |template, methods| [pattern(template), operations(template, methods)] }
  end

  def pattern(template)
    parts = template.split(/\{(\w+)\}/).each_slice(2).map do |text, name|
      Regexp.escape(text) + (name ? "(?<#{name}>[^/]+)" : "")
    end
    /\A#{parts.join}\z/
  end

  def operations(template, methods)
    methods.slice("get", "post", "put", "patch", "delete").transform_values do |one|
      Operation.new(template: template,
        parameters: one["parameters"].to_a,
        body: one["requestBody"],
        responses: one["responses"],
        role: one.fetch("x-role"), in_person: one.fetch("x-in-person", false))
    end
  end
end
