# frozen_string_literal: true

require "json"

# Seeded requests that nobody should send, made from the OpenAPI document: right and wrong names, types,
# sizes, encodings and bodies.
class HostileRequests
  WORKSPACES = ["skerry-line", "skerry-line", "skerry-line", "none", "%FF", "a/../b", ""].freeze
  TEXTS = ["", "0", "-1", "1", "999999999999999999999", "1e9", "NaN", "null", "true", "a" * 9_000, "%", "%zz", "%FF%FE", "%00", "'; DROP TABLE links;--", "2026-02-30",
    "2026-11-25", "99999-01-01", "{}", "[]", "../../etc/passwd", "＝1+1", "\u{1F600}", "http://a.example/?x=1", "up", "links", "weight"].freeze
  TYPES = ["application/json", "application/x-www-form-urlencoded", "multipart/form-data", "multipart/form-data; boundary=x", "text/csv", "text/plain; charset=utf-16", "", "nonsense"].freeze
  VALUES = [nil, true, 0, -1, 1.5, 10**30, "", "a", "x" * 5_000, "\u0000", [], {}, [[]], [nil], {"a" => {"b" => []}}, "2026-11-25", "http://10.0.0.1/", "http://a.test/"].freeze
  BODIES = ["", "{", "[]", "null", "\xFF\xFE\x00".b, "[" * 5_000, "{\"a\":" * 50, "--x\r\nContent-Disposition: form-data; name=\"a\"\r\n\r\n1", "a=1&b[]=2&b[c]=3", "\u{FEFF}{}", "{\"document\":1e999}"].freeze

  # One request. method, path (with its query), body, type: the Content-Type.
  Request = Struct.new(:method, :path, :body, :type, keyword_init: true)

  # @param document [ApiDocument]
  # @param seed [Integer]
  def initialize(document, seed)
    @random = Random.new(seed)
    @operations = document.operations
    @schemas = document.document["components"]["schemas"]
  end

  # @return [Request]
  def next
    operation = one_of(@operations)
    names = operation.parameters_in("query").keys
    path = operation.template.gsub(/\{(\w+)\}/) { ($1 == "workspace") ? one_of(WORKSPACES) : piece }
    Request.new(method: operation.method, path: [path, query(names)].reject(&:empty?).join("?"), body: body(operation), type: one_of(TYPES))
  end

  private

  def one_of(list) = list[@random.rand(list.size)]

  # Of a path: most are whole numbers, as ids are.
  def piece = if @random.rand < 0.6
                @random.rand(1..30).to_s
              else
                one_of(TEXTS).gsub(/[^\w%.-]/, "%20").then { |text| text.empty? ? "0" : text[0, 3_000] }
              end

  def query(names)
    Array.new(@random.rand(4)) do
      name = (names.any? && @random.rand < 0.8) ? one_of(names) : one_of(%w[x q[] kind[a] limit %FF sort])
      "#{name}#{one_of(["", "", "", "[]", "[a]"])}=#{one_of(TEXTS).b.gsub(/[^\w%.\-:\/]/n) { |byte| format("%%%02X", byte.ord) }}"
    end.join("&")
  end

  def body(operation)
    schema = operation.json
    return one_of(BODIES) unless schema && @random.rand < 0.7

    JSON.generate(like(schema, 0))
  end

  # Nearly what the schema asks for: a part of it is something else.
  def like(schema, depth)
    return one_of(VALUES) if depth > 4 || @random.rand < 0.15

    schema = @schemas.fetch(schema["$ref"].split("/").last) if schema["$ref"]
    return one_of(schema["enum"]) if schema["enum"]

    of_type(schema, Array(schema["type"]).first, depth)
  end

  def of_type(schema, type, depth)
    case type
    when "object"
      schema["properties"].to_h.select { @random.rand < 0.85 }.transform_values { |one| like(one, depth + 1) }
    when "array" then Array.new(@random.rand(3)) { like(schema["items"] || {}, depth + 1) }
    when "integer", "number" then one_of([0, 1, 2, -1, 10**12])
    when "boolean" then one_of([true, false])
    when "string" then one_of(TEXTS)
    else one_of(VALUES)
    end
  end
end
