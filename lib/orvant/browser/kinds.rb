# frozen_string_literal: true

module Orvant
  module Browser
    # What the browser says of each request before it makes it: the gate sees every request but not what it is for. Asked on the
    # browser's own session, so that frames, workers, windows and what is sent on leaving are all told of.
    class Kinds
      # kind: as in Request · frame: the browser's id of the frame that it is for.
      Said = Struct.new(:kind, :frame, keyword_init: true)
      # What was said of requests that were never made is forgotten after so many others.
      MOST = 20_000

      def initialize
        @said = {}
        @lock = Mutex.new
      end

      # @param client [Ferrum::Client] of the browser's own session
      def listen(client)
        client.on("Fetch.requestPaused") do |facts|
          note(facts)
          client.command("Fetch.continueRequest", async: true, requestId: facts["requestId"])
        end
        client.command("Fetch.enable", patterns: [{urlPattern: "*"}])
      end

      # @param method [String]
      # @param address [Address] as requested
      # @return [Said, nil] what was said of the earliest such request that has not been made yet; the network makes one again by itself
      #   where a connection ended without an answer, and then what was said last still holds
      def take(method, address)
        @lock.synchronize do
          list = @said[key(method, address.raw)].to_a
          (list.size > 1) ? list.shift : list.first
        end
      end

      private

      def note(facts)
        request = facts["request"]
        return unless request["url"].match?(/\Ahttps?:/i)

        said = Said.new(kind: facts["resourceType"], frame: facts["frameId"])
        @lock.synchronize do
          (@said[key(request["method"], request["url"])] ||= []) << said
          @said.shift if @said.size > MOST
        end
      end

      # Names and passwords are not part of what is requested.
      def key(method, text) = [method, text.sub(/#.*\z/m, "").sub(%r{\A(https?://)[^/?#@]*@}i, "\\1")]
    end
  end
end
