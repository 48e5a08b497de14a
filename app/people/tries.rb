# frozen_string_literal: true

require "active_support/cache"
require "rack/attack"

# Counts wrong passwords, over all processes of the web server: whoever has tried ten waits.
module Tries
  MOST = 10
  WAIT = 15 * 60
  # Requests that may carry a password, from one machine in ten minutes.
  FROM_ONE = 60

  class << self
    # @param keys [Array<String>] what is counted: a mail address, a machine
    # @yield does the try
    # @yieldreturn [Object, nil] nil where it was wrong
    # @return [Object, nil]
    # @raise [Problem] where one of them has to wait
    def count(*keys)
      raise Problem.new(:too_many_tries) if keys.any? { |key| Rack::Attack::Allow2Ban.banned?(key) }

      result = yield
      keys.each { |key| result ? forget(key) : note(key) }
      result
    end

    # For Rack: how requests are counted, and where.
    def set_up
      Rack::Attack.cache.store = store
      Rack::Attack.throttle("passwords", limit: FROM_ONE, period: 600) do |request|
        if request.post? && request.path.match?(%r{\A/api/(?:session|owner|password-links|invitations/)})
          request.ip
        end
      end
      Rack::Attack.throttled_responder = ->(_) { Problem.new(:too_many_tries).to_rack }
    end

    # Takes away what no longer counts.
    def tidy = store.cleanup

    private

    # All processes of the web server count together.
    def store = ActiveSupport::Cache::FileStore.new(Settings.var("tries"))

    def note(key)
      Rack::Attack::Allow2Ban.filter(key, maxretry: MOST, findtime: WAIT, bantime: WAIT) { true }
    end

    def forget(key) = Rack::Attack::Allow2Ban.reset(key, findtime: WAIT)
  end
end
