# frozen_string_literal: true

require "ipaddr"

# What a request says of itself through a proxy is heard only where it comes from a proxy that Orvant was told
# of, and of that only what this proxy wrote itself: whose request it is, and whether it came by TLS.
class Forwarded
  HEADERS = %w[HTTP_FORWARDED HTTP_X_FORWARDED_FOR HTTP_X_FORWARDED_HOST HTTP_X_FORWARDED_PORT HTTP_X_FORWARDED_PROTO HTTP_X_FORWARDED_SCHEME HTTP_X_FORWARDED_SSL HTTP_CLIENT_IP HTTP_X_REAL_IP].freeze

  # @param app [#call]
  def initialize(app)
    @app = app
  end

  # @param env [Hash] of Rack
  # @return [Array] of Rack
  def call(env)
    proxies = Settings.proxies
    take(env, proxies) if proxies.any? && believed?(env["REMOTE_ADDR"], proxies)
    HEADERS.each { |name| env.delete(name) }
    @app.call(env)
  end

  private

  # Each proxy writes behind what it was sent: the last that is none of ours is who asked.
  def take(env, proxies)
    asked = env["HTTP_X_FORWARDED_FOR"].to_s.split(",").map(&:strip).reverse.find { |one| !believed?(one, proxies) }
    env["REMOTE_ADDR"] = asked if asked && address(asked)
    if env["HTTP_X_FORWARDED_PROTO"].to_s.split(",").last.to_s.strip.casecmp?("https")
      env["rack.url_scheme"] =
        "https"
    end
  end

  def believed?(text, proxies)
    address(text)&.then { |one|
      proxies.any? { |proxy|
        proxy.family == one.family && proxy.include?(one)
      }
    } || false
  end

  def address(text)
    IPAddr.new(text.to_s).then { |one| one.ipv4_mapped? ? one.native : one }
  rescue IPAddr::Error
    nil
  end
end
