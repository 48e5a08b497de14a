# frozen_string_literal: true

require "json"
require "time"

module Orvant
  module Traffic
    # Reads one line of an access log: the Combined Log Format, with the host before it or times behind it, or
    # a JSON object with named fields.
    module LogLine
      # time: Time · visitor: address and user agent · host: "" where the line names none · target: path and
      # query · referrer · agent · type: of the answer, nil where the line says none.
      Request = Struct.new(
        :time,
        :visitor,
        :host,
        :method,
        :target,
        :status,
        :referrer,
        :agent,
        :type,
        keyword_init: true
      )

      COMBINED = /\A(?:(?<vhost>[\w.-]+)(?::\d+)? )?(?<address>[0-9a-fA-F.:]+|[\w.-]+) \S+ (?:"[^"]*"|\S+) \[(?<time>[^\]]{10,40})\] "(?<request>(?:[^"\\]|\\.)*)" (?<status>\d{3}) (?:\d+|-)(?: "(?<referrer>(?:[^"\\]|\\.)*)" "(?<agent>(?:[^"\\]|\\.)*)")?/
      CLOCK = %r{\A(\d\d)/(\w{3})/(\d{4}):(\d\d):(\d\d):(\d\d) ([+-]\d{4})\z}
      MONTHS = %w[Jan Feb Mar Apr May Jun Jul Aug Sep Oct Nov Dec].each.with_index(1).to_h.freeze
      # Names under which each field is known in JSON.
      NAMES = {time: %w[time timestamp ts time_local time_iso8601 @timestamp date],
               address: %w[remote_addr client_ip ip remote_ip client addr],
               method: %w[method request_method],
               target: %w[uri request_uri path url target],
               status: %w[status status_code code],
               referrer: %w[referrer referer http_referer http_referrer],
               agent: %w[user_agent agent http_user_agent ua],
               host: %w[host http_host vhost server_name],
               request: %w[request],
               type: %w[content_type mime type]}.freeze
      # What a report can be of.
      YEARS = (2000..2100)

      class << self
        # @param line [String] in UTF-8
        # @return [Request, nil] nil where nothing of the kind can be read
        def read(line) = line.start_with?("{") ? json(line) : combined(line)

        private

        def combined(line)
          found = COMBINED.match(line) or return
          method, target, = found[:request].split(" ", 3)
          time = clock(found[:time]) or return
          Request.new(time: time,
            visitor: "#{found[:address]} #{found[:agent]}",
            host: found[:vhost].to_s.downcase,
            method: method.to_s,
            target: target.to_s,
            status: found[:status].to_i,
            referrer: empty(found[:referrer]), agent: empty(found[:agent]))
        end

        def clock(text)
          day, month, year, hour, minute, second, zone = CLOCK.match(text)&.captures
          return unless day && MONTHS.key?(month) && YEARS.cover?(year.to_i)

          Time.new(
            year.to_i,
            MONTHS[month],
            day.to_i,
            hour.to_i,
            minute.to_i,
            second.to_i,
            "#{zone[0, 3]}:#{zone[3, 2]}"
          )
        rescue ArgumentError
          nil
        end

        def json(line)
          document = JSON.parse(line, max_nesting: 10)
          said = NAMES.transform_values { |names| names.filter_map { |name| document[name] }.first }
          method, target = said[:request].to_s.split(" ", 3)
          time = moment(said[:time]) or return
          Request.new(time: time,
            visitor: "#{said[:address]} #{said[:agent]}",
            host: said[:host].to_s.downcase.sub(/:\d+\z/, ""),
            method: (said[:method] || method).to_s,
            target: (said[:target] || target).to_s.sub(%r{\Ahttps?://[^/]*}i, ""),
            status: said[:status].to_i,
            referrer: empty(said[:referrer]),
            agent: empty(said[:agent]),
            type: said[:type]&.to_s)
        rescue JSON::ParserError, TypeError, NoMethodError
          nil
        end

        def moment(said)
          time = if said.is_a?(Numeric)
            Time.at((said > 100_000_000_000) ? said / 1000.0 : said).utc
          else
            clock(said.to_s) || Time.iso8601(said.to_s.sub(" ", "T"))
          end
          time if YEARS.cover?(time.year)
        rescue ArgumentError, RangeError
          nil
        end

        def empty(text) = (text == "-") ? "" : text.to_s
      end
    end
  end
end
