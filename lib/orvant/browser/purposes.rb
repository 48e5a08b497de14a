# frozen_string_literal: true

module Orvant
  module Browser
    # What the browser says of each request before it makes it: the gate sees every request but not what it is
    # for. Asked on the browser's own session, so that frames, workers, windows and what is sent on leaving
    # are all told of.
    class Purposes
      # purpose: as in Request · frame: the browser's id of the frame that it is for.
      Said = Struct.new(:purpose, :frame, keyword_init: true)
      # What was said of requests that were never made is forgotten after so many others.
      MOST = 20_000

      def initialize
        @said = {}
        @pages = {}
        @lock = Mutex.new
      end

      # @param client [Ferrum::Client] of the browser's own session
      def listen(client)
        client.on("Fetch.requestPaused") do |message|
          note(message)
          client.command("Fetch.continueRequest", async: true, requestId: message["requestId"])
        end
        client.command("Fetch.enable", patterns: [{urlPattern: "*"}])
      end

      # What is said of a visit's own page is nobody else's affair, also when it has ended.
      #
      # @param frame [String] the browser's id of that page
      def begin(frame)
        @lock.synchronize do
          @pages[frame] = true
          @pages.shift if @pages.size > MOST
        end
      end

      # @param method [String]
      # @param address [Address] as requested
      # @param frame [String, nil] the page of the visit that asks: what another visit's page asks for is not
      #   its affair
      # @return [Said, nil] what was said of the earliest such request that has not been made yet; the network
      #   makes one again by itself where a connection ended without an answer, and then what was said last
      #   still holds
      def take(method, address, frame = nil)
        @lock.synchronize do
          list = @said[key(method, address.raw)].to_a
          index = list.index { |said| said.frame == frame || !@pages.key?(said.frame) } or next
          (list.size > 1) ? list.delete_at(index) : list[index]
        end
      end

      private

      def note(message)
        request = message["request"]
        return unless request["url"].match?(/\Ahttps?:/i)

        said = Said.new(purpose: message["resourceType"], frame: message["frameId"])
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
