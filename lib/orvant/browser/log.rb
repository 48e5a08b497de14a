# frozen_string_literal: true

require "json"
require "time"

module Orvant
  module Browser
    # Writes down what a browser asked for and was answered in one visit, and gives it as a HAR 1.2 document.
    class Log
      # Events of the DevTools protocol that it takes.
      EVENTS = %w[Network.requestWillBeSent Network.responseReceived Network.loadingFinished Network.loadingFailed].freeze
      # Of a visit no more requests are kept, and of a body or a document no more characters.
      MOST = 3_000
      MOST_BODY = 65_536
      MOST_DOCUMENT = 1_000_000
      # What stands in an entry that was answered by the sealed browser and never reached anybody.
      HELD = "Answered by Orvant: it reached nobody."

      def initialize
        @entries = {}
        @pages = []
        @frames = {}
        @lock = Mutex.new
      end

      # @param frame [String] the browser's id of a page's own frame: documents in it are pages, those in
      #   others stand within one
      def page_in(frame) = @lock.synchronize { @frames[frame] = true }

      # @param event [String] one of EVENTS
      # @param message [Hash] what the browser says
      # @param step [Integer] of a rehearsal
      def take(event, message, step: 1)
        @step = step
        @lock.synchronize do
          case event
          when "Network.requestWillBeSent" then asked(message)
          when "Network.responseReceived"
            answered(@entries[message["requestId"]], message["response"], message["timestamp"])
          else ended(@entries[message["requestId"]], message)
          end
        end
      end

      # @param name [String] of a field
      # @param step [Integer]
      # @return [String, nil] what was sent of it last in this step, in an address or a body
      def sent(name, step)
        @lock.synchronize { @entries.values.select { |entry| entry[:step] == step } }.reverse_each do |entry|
          value = Signal::Payload.new(
            Address.new(entry[:request]["url"]),
            body: entry[:request]["postData"],
            type: header(pairs(entry[:request]["headers"]), "content-type")
          ).records.first[name]
          return value.to_s if value
        end
        nil
      end

      # @param request [String] the browser's id of the request that brought a document
      # @param text [String] the document as it was answered
      def document(request, text)
        @lock.synchronize { @entries[request]&.store(:text, text[0, MOST_DOCUMENT]) }
      end

      # @return [Array<String>] the browser's ids of requests whose documents have come and are not kept yet
      def unread
        @lock.synchronize do
          @entries.select { |_, entry| entry[:type] == "Document" && entry[:ended] && !entry.key?(:text) }
            .each_value { |entry| entry[:text] = nil }.keys
        end
      end

      # @param held [Array<String>] addresses that were answered here
      # @return [Hash{String => Object}] HAR 1.2
      def to_h(held: [])
        held = held.to_h { |address| [address, true] }
        entries = @lock.synchronize { @entries.values.map(&:dup) }
        {"log" => {"version" => "1.2", "creator" => {"name" => "Orvant", "version" => VERSION},
                   "pages" => @pages.map { |page|
                     {
                       "startedDateTime" => time(page[:at]),
                       "id" => page[:id],
                       "title" => Secrets.address(page[:address]),
                       "pageTimings" => {}
                     }
                   },
                   "entries" => entries.map { |entry| entry_document(entry, held.key?(entry[:request]["url"][/\A[^#]*/])) }}}
      end

      private

      # A redirect is told with the next request, under the same id.
      def asked(message)
        id = message["requestId"]
        turned_away(id, message) if message["redirectResponse"]
        return if @entries.size >= MOST || !message.dig("request", "url").to_s.match?(/\Ahttps?:/i)

        if message["type"] == "Document" && @frames.key?(message["frameId"]) && !message["redirectResponse"]
          began_page(message)
        end
        @entries[id] = {
          request: message["request"],
          step: @step,
          at: message["wallTime"],
          since: message["timestamp"],
          type: message["type"],
          page: @pages.last&.fetch(:id),
          initiator: message.dig("initiator", "url") || message.dig("initiator", "type")
        }
      end

      def turned_away(id, message)
        entry = @entries.delete(id) or return
        answered(entry, message["redirectResponse"], message["timestamp"])
        @entries["#{id} #{@entries.size}"] = entry
      end

      def began_page(message)
        @pages << {id: "page_#{@pages.size + 1}", at: message["wallTime"],
address: message.dig("request", "url")}
      end

      def answered(entry, response, timestamp) = entry&.merge!(response: response, waited: timestamp)

      def ended(entry, message)
        entry&.merge!(
          ended: message["timestamp"],
          size: message["encodedDataLength"].to_i,
          failed: message["errorText"]
        )
      end

      def time(seconds) = Time.at(seconds.to_f).utc.iso8601(3)

      def entry_document(entry, held)
        wait, receive = [[entry[:since], entry[:waited]], [entry[:waited], entry[:ended]]].map { |from, to|
          (from &&
                  to) ? ((to - from) * 1000).round(1) : 0
        }
        {"pageref" => entry[:page],
         "startedDateTime" => time(entry[:at]),
         "time" => (wait + receive).round(1),
         "request" => request(entry[:request]),
         "response" => response(entry),
         "cache" => {},
         "timings" => {"send" => 0, "wait" => wait, "receive" => receive},
         "_resourceType" => entry[:type]&.downcase,
         "_initiator" => entry[:initiator],
         "comment" => (HELD if held)}.compact
      end

      def request(said)
        headers = Secrets.headers(pairs(said["headers"]))
        address = Secrets.address(said["url"])
        post = said["postData"]
        {"method" => said["method"],
         "url" => address,
         "httpVersion" => "HTTP/1.1",
         "cookies" => [],
         "headers" => headers,
         "queryString" => Address::Pair.split(address[/\?([^#]*)/, 1].to_s)
           .map { |pair| {"name" => pair.name, "value" => pair.value} },
         "postData" => post && {
           "mimeType" => header(headers, "content-type"),
           "params" => [],
           "text" => Secrets.body(post[0, MOST_BODY])
         },
         "headersSize" => -1,
         "bodySize" => post ? post.bytesize : 0}.compact
      end

      def response(entry)
        said = entry[:response]
        unless said
          return {
            "status" => 0,
            "statusText" => entry[:failed].to_s,
            "httpVersion" => "",
            "cookies" => [],
            "headers" => [],
            "content" => {"size" => 0, "mimeType" => ""},
            "redirectURL" => "",
            "headersSize" => -1,
            "bodySize" => -1
          }
        end

        headers = Secrets.headers(pairs(said["headers"]))
        {"status" => said["status"],
         "statusText" => said["statusText"].to_s,
         "httpVersion" => said["protocol"].to_s,
         "cookies" => [],
         "headers" => headers,
         "content" => {
           "size" => entry[:text]&.bytesize || entry[:size].to_i,
           "mimeType" => said["mimeType"].to_s,
           "text" => entry[:text]
         }.compact,
         "redirectURL" => header(headers, "location"),
         "headersSize" => -1,
         "bodySize" => entry[:size] || -1}
      end

      def pairs(headers) = headers.to_h.map { |name, value| {"name" => name, "value" => value.to_s} }

      def header(headers, name) = headers.find { |one| one["name"].casecmp?(name) }&.fetch("value") || ""
    end
  end
end
