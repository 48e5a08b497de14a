# frozen_string_literal: true

require_relative "../app_helper"

# Every operation of the OpenAPI document with what nobody should send: it is answered in words or done, and
# never trips.
RSpec.describe "Hostile requests", :api, :demo do
  bodies = {
    "nothing" => "",
    "half an object" => "{",
    "a list" => "[]",
    "nothing in JSON" => "null",
    "bytes that are no text" => "\xFF\x00\xFE".b,
    "other types than asked for" =>
      JSON.generate(
        "links" => {
          "x" => []
        },
        "act" => 7,
        "rows" => [1, nil],
        "document" => [],
        "value" => {},
        "kind" => 3
      ),
    "a list in a list without end" => "[" * 3_000
  }
  queries = [
    "limit=-1&offset=x&sort[]=1&filter=%FF&direction=;drop&q[]=a&before=zz&ids=a,b&kind[]=x",
    "limit=99999999999999999999&visitors=x&earlier=q&after=%00&code=%27%22&chosen=%7B%7D"
  ]
  operations =
    ApiDocument.own.operations.map { |one| [one.method, one.template] }

  # @return [Array<Array>] method, path, body or query
  def self.requests(method, template, bodies, queries)
    %w[999999 %00].flat_map do |id|
      path = template.sub("{workspace}", "skerry-line").gsub(/\{\w+\}/, id)
      next queries.map { |query| ["#{path}?#{query}", ""] } if method == "get"

      bodies.values.map { |body| [path, body] }
    end
  end

  def answer(method, path, body)
    env = {"HTTP_HOST" => "127.0.0.1", "CONTENT_TYPE" => "application/json"}
    (method == "get") ? get(path, {}, env) : public_send(method, path, {}, env.merge(input: body))
    last_response
  end

  # A problem is said by RFC 9457, with what to do about it, and nothing of the inside.
  def fault(response)
    return if response.status < 400
    return "status #{response.status}" if response.status >= 500

    problem = JSON.parse(response.body)
    unless problem["detail"].to_s.match?(/\A\S.{10,}[.!?”]\z/m) && !problem["detail"].match?(/Error|undefined|\.rb/)
      "no sentence: #{problem.inspect}"
    end
  rescue JSON::ParserError
    "no JSON: #{response.body[0, 80]}"
  end

  operations.each do |method, template|
    it "are answered by #{method.upcase} #{template}" do
      faults =
        self
          .class
          .requests(method, template, bodies, queries)
          .filter_map do |path, body|
            wrong = fault(answer(method, path, body))
            wrong && [path, body[0, 30], wrong]
          end
      expect(faults).to eq([])
    end
  end
end
