# frozen_string_literal: true

# What a request says of itself through a proxy is heard only where Orvant was told that there is one.
class Forwarded
  HEADERS = %w[HTTP_FORWARDED HTTP_X_FORWARDED_FOR HTTP_X_FORWARDED_HOST HTTP_X_FORWARDED_PORT HTTP_X_FORWARDED_PROTO HTTP_X_FORWARDED_SCHEME HTTP_X_FORWARDED_SSL HTTP_CLIENT_IP].freeze

  # @param app [#call]
  def initialize(app)
    @app = app
  end

  # @param env [Hash] of Rack
  # @return [Array] of Rack
  def call(env)
    HEADERS.each { |name| env.delete(name) } unless Settings["ORVANT_PROXY"] == "1"
    @app.call(env)
  end
end
