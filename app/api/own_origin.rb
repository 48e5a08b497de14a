# frozen_string_literal: true

require "rack"

# A page on another site cannot make a browser change anything here: browsers name the origin of every such
# request.
class OwnOrigin
  STRANGE = %w[cross-site same-site].freeze

  # @param app [#call]
  def initialize(app)
    @app = app
  end

  # @param env [Hash] of Rack
  # @return [Array] of Rack: a problem where another site asks for a change
  def call(env)
    request = Rack::Request.new(env)
    return @app.call(env) if safe?(request) || !foreign?(request)

    Problem.new(:foreign_origin).to_rack
  end

  private

  def safe?(request) = request.get? || request.head? || request.options? || !request.path.start_with?("/api/")

  def foreign?(request)
    origin = request.get_header("HTTP_ORIGIN")
    (origin && origin != request.base_url) || STRANGE.include?(request.get_header("HTTP_SEC_FETCH_SITE"))
  end
end
