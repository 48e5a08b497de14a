# frozen_string_literal: true

# Calls the API inside Rack::Lint and holds every answer against the OpenAPI document.
module ApiCalls
  include Rack::Test::Methods

  OWN = {"HTTP_HOST" => "127.0.0.1"}.freeze

  def app
    @app ||= Rack::Lint.new(Api)
  end

  # @return [Object] the JSON of the answer, or its text
  def call(method, path, body: nil, expect_status: nil, **env)
    public_send(
      method,
      "/api/workspaces/skerry-line#{path}",
      {},
      OWN
        .merge("CONTENT_TYPE" => "application/octet-stream")
        .merge(env.transform_keys(&:to_s))
        .merge(body ? {input: body} : {})
    )
    expect(last_response.status).to eq(expect_status || {post: 201, delete: 204}.fetch(method, 200)),
      last_response.body[0, 500]
    hold_against_document(method, path)
    last_response.content_type.to_s.include?("json") ? JSON.parse(last_response.body) : last_response.body
  end

  private

  def hold_against_document(method, path)
    operation, = ApiDocument.own.find(method.to_s, "/api/workspaces/skerry-line#{path[/\A[^?]*/]}")
    raise "#{method} #{path} is not in the OpenAPI document" unless operation

    answer =
      operation.responses[last_response.status.to_s] ||
      raise("#{method} #{path} may not answer #{last_response.status}")
    type = last_response.content_type.to_s[/\A[^;]+/]
    return expect(answer["content"]).to(be_nil) if last_response.body.empty?

    expect(answer["content"].keys).to include(type)
    return unless type.include?("json")

    faults =
      ApiDocument
        .own
        .schemer(answer["content"][type]["schema"])
        .validate(JSON.parse(last_response.body))
        .first(3)
        .map { |fault| "#{fault["data_pointer"]}: #{fault["error"]}" }
    expect(faults).to eq([])
  end
end
