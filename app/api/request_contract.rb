# frozen_string_literal: true

require "json"
require "rack"
require "uri"

# Holds every request against the OpenAPI document before a handler sees it: types, sizes, formats, and
# parameters that are not there.
class RequestContract
  # A text that nobody types: addresses are no longer.
  MOST_TEXT = Orvant::Address::MAX_LENGTH
  # A body of JSON, in bytes, where the document names no other size.
  MOST_BODY = 1_048_576
  # JSON that people and our screens write is flat.
  MOST_DEPTH = 20
  # Where handlers find the body's document.
  JSON_BODY = "orvant.json"
  INTEGER = /\A-?\d{1,15}\z/

  # @param app [#call]
  # @param document [ApiDocument]
  def initialize(app, document = ApiDocument.own)
    @app = app
    @document = document
  end

  # @param env [Hash] of Rack
  # @return [Array] of Rack: a problem where the request is not as the document says
  def call(env)
    return @app.call(env) unless env["PATH_INFO"].start_with?("/api/")

    check(env)
    @app.call(env)
  rescue Problem => problem
    problem.to_rack
  end

  private

  def check(env)
    env["CONTENT_TYPE"] = "application/octet-stream" if form?(env)
    asked = query(env)
    operation, given = operation_of(env)
    return unless operation

    operation.parameters_in("path").each { |name, one| find(given[name], one["schema"]) }
    hold_query(asked, operation.parameters_in("query"))
    env[JSON_BODY] = body(env, operation) if operation.json
  end

  # No operation takes a form; what curl and browsers say of a file by habit must not be read as one.
  def form?(env) = env["CONTENT_TYPE"].to_s.match?(%r{\A\s*(?:application/x-www-form-urlencoded|multipart/)}i)

  def operation_of(env)
    operation, given = @document.find(env["REQUEST_METHOD"], env["PATH_INFO"])
    [operation, given.to_h.transform_values { |text| decoded(text.gsub("+", "%2B")) }]
  end

  def decoded(text)
    plain = URI.decode_www_form_component(text)
    return plain if plain.valid_encoding? && !plain.include?("\0")

    wrong("The request's address holds bytes that are no text in UTF-8.")
  rescue ArgumentError
    wrong("The request's address holds a % that begins no escape; write %25 for the sign itself.")
  end

  def query(env)
    env["QUERY_STRING"].to_s.split("&").reject(&:empty?).map do |pair|
      name, value = pair.split("=", 2)
      [decoded(name.to_s), decoded(value.to_s)]
    end
  end

  def hold_query(given, known)
    given.each do |name, _|
      unless known.key?(name)
        wrong("There is no parameter “#{name[0, Orvant::Cut::QUOTE]}” here; there are: #{known.keys.join(", ").then { |names| names.empty? ? "none" : names }}.")
      end
    end
    twice = given.map(&:first).tally.find { |_, count| count > 1 }
    wrong("The parameter “#{twice.first}” is given #{twice.last} times; give it once.") if twice
    given.each { |name, value| hold(name, value, known[name]["schema"]) unless value.empty? }
    missing = known.values.find do |one|
      one["required"] && given.none? { |name, value| name == one["name"] && !value.empty? }
    end
    wrong("The parameter “#{missing["name"]}” is missing.") if missing
  end

  # What no path can lead to is not there.
  def find(text, schema)
    if text.length > MOST_TEXT || (schema["type"] == "integer" && !INTEGER.match?(text))
      raise Problem.new(:not_found)
    end
  end

  def hold(name, text, schema)
    longest = schema.fetch("maxLength", MOST_TEXT)
    wrong("“#{name}” is longer than #{longest} characters.") if text.length > longest
    value = (schema["type"] == "integer") ? whole_number(name, text) : text
    fault = @document.schemer(schema).validate(value).first
    wrong("#{name} cannot be “#{text[0, Orvant::Cut::QUOTE]}”: #{sentence(fault)}") if fault
  end

  def whole_number(name, text)
    INTEGER.match?(text) ? text.to_i : wrong("“#{name}” is a whole number, and “#{text[0, Orvant::Cut::QUOTE]}” is none.")
  end

  def body(env, operation)
    document = parsed(env, operation.body.fetch("x-most-bytes", MOST_BODY))
    fault = @document.schemer(operation.json).validate(document).first
    if fault
      wrong("The request's body does not fit#{" at #{fault["data_pointer"]}" unless fault["data_pointer"].empty?}: #{sentence(fault)}")
    end
    document
  end

  def parsed(env, most)
    text = env["rack.input"]&.read(most + 1).to_s
    if text.bytesize > most
      raise Problem.new(:too_large, "The request's body is larger than #{most / 1_048_576} MB.")
    end

    text = String.new(text, encoding: Encoding::UTF_8)
    wrong("The request's body is no text in UTF-8.") unless text.valid_encoding?
    document = text.strip.empty? ? {} : JSON.parse(text, max_nesting: MOST_DEPTH)
    document.is_a?(Hash) ? document : wrong("The request's body is no JSON object.")
  rescue JSON::ParserError
    wrong("The request's body is no JSON object.")
  end

  def sentence(fault)
    permitted = fault["schema"]["enum"] if fault["schema"].is_a?(Hash)
    return "it is one of #{permitted.join(", ")}." if permitted

    "#{fault["error"].to_s.sub(/\A(?:value|property) at (?:root|`[^`]*`) /, "it ")}."
  end

  def wrong(text) = raise(Problem.new(:unusable_input, text))
end
