# frozen_string_literal: true

require "digest"
require "ipaddr"
require "active_support/cache"
require "rack/attack"

# Counts tries at passwords and codes before they are reckoned, over all processes of the web server. Whoever
# was wrong waits, longer each time: somebody at one machine for one account soon, a machine that tries many
# accounts later; an account that many machines try makes strange machines wait a little. A browser on which
# its person has signed in waits for its own tries alone.
module Tries
  # Tries that are free, and the longest pause after more, in seconds.
  Bound = Struct.new(:free, :longest, keyword_init: true)
  BOUNDS = {
    "account and machine" => Bound.new(free: 5, longest: 900),
    "machine" => Bound.new(free: 30, longest: 900),
    "account" => Bound.new(free: 30, longest: 60)
  }.freeze
  # Seconds after which a wrong try is forgotten.
  FORGOTTEN = 24 * 3_600
  # Requests that may carry a password, from one machine in ten minutes.
  FROM_ONE = 120

  # Counted tries at one account from one machine.
  class Row < ActiveRecord::Base
    self.table_name = "tries"
  end

  class << self
    # @param account [String] what is tried: a mail address, or a link
    # @param machine [String] address of who tries; "" where nobody else can
    # @param known [Boolean] whether the account's own person has signed in at this machine
    # @yield reckons it
    # @yieldreturn [Object, nil] nil where it was wrong
    # @return [Object, nil]
    # @raise [Problem] where they have to wait
    def count(account, machine: "", known: false)
      keys = keys(account, network(machine), known)
      begun = keys.map { |kind, key| take(kind, key) }
      result = yield
      if result
        Row.where(digest: begun.first).delete_all
        forgive(begun.drop(1))
      end
      result
    rescue Problem
      # Half right, or not even reckoned: that counts for this account at this machine.
      forgive(begun.drop(1)) if begun
      raise
    end

    # For Rack: how requests are counted, and where.
    def set_up
      Rack::Attack.cache.store = store
      Rack::Attack.throttle("passwords", limit: FROM_ONE, period: 600) do |request|
        if !request.get? && request.path.match?(%r{\A/api/(?:session|owner|account|password-links|invitations/)})
          network(request.ip)
        end
      end
      Rack::Attack.throttled_responder = ->(_) { Problem.new(:too_many_tries).to_rack }
    end

    # Takes away what no longer counts.
    def tidy
      Row.where("last_at < ?", Time.now.utc - FORGOTTEN).delete_all
      store.cleanup
    end

    private

    # All processes of the web server count together.
    def store = ActiveSupport::Cache::FileStore.new(Settings.var("tries"))

    def keys(account, machine, known)
      return {"account and machine" => "#{account} in a browser of its own"} if known

      all = {"account and machine" => "#{account} #{machine}", "machine" => machine, "account" => account}
      all.delete("machine") if machine.empty?
      all
    end

    def forgive(digests) = Row.where(digest: digests).where("count > 0").update_all("count = count - 1")

    # Who has one address of version 6 has all of its network.
    def network(machine)
      address = IPAddr.new(machine)
      address.ipv6? ? address.mask(64).to_s : address.to_s
    rescue IPAddr::Error
      machine.to_s
    end

    # Counts it, so that of many at once only as many go on as one after the other would.
    def take(kind, key)
      digest = Digest::SHA256.hexdigest("#{kind} #{key}")
      now = Time.now.utc
      Row.transaction do
        row = Row.lock.find_by(digest: digest)
        row = Row.new(digest: digest) if row.nil? || row.last_at < now - FORGOTTEN
        raise Problem.new(:too_many_tries, wait((row.next_at - now).ceil)) if row.next_at && row.next_at > now

        keep(row, kind, now)
      end
      digest
    end

    def keep(row, kind, now)
      bound = BOUNDS.fetch(kind)
      over = row.count.to_i + 1 - bound.free
      pause = (over < 0) ? 0 : [2**[over, 20].min, bound.longest].min
      facts = {count: row.count.to_i + 1, last_at: now, next_at: now + pause}
      return row.update!(facts) if row.persisted?

      Row.upsert({digest: row.digest, **facts}, unique_by: :digest, record_timestamps: false)
    end

    def wait(seconds)
      "Too many tries were wrong. Try again in #{(seconds > 90) ? "#{(seconds / 60.0).ceil} minutes" : Orvant::Words.counted(seconds, "second")}."
    end
  end
end
