# frozen_string_literal: true

require "json"
require "time"

module Orvant
  # What a browser has done, as a HAR 1.2 document tells it: read into pages with their signals, which the
  # same checks judge as what the sealed browser sees. Unlike there, the tags' servers have answered, so that
  # what they refused can be told.
  class Recording
    # Bytes of a document, and entries, that are read.
    MOST_BYTES = 100_000_000
    MOST_ENTRIES = 20_000
    # What is kept of what was sent to hosts that nobody knows.
    MOST_PAGES = 200
    REDIRECTS = [301, 302, 303, 307, 308].freeze

    # An entry as the checks need it. address: Address · at: seconds since 1970 · body, type: of the request ·
    # text: the document, or nil.
    Entry = Struct.new(
      :page,
      :address,
      :method,
      :status,
      :at,
      :body,
      :type,
      :document,
      :text,
      :headers,
      :redirect,
      :held,
      keyword_init: true
    )

    # @param bytes [String] the file
    # @return [Recording]
    # @raise [Error::UnusableTable] where it is no HAR, too large or cut off
    def self.read(bytes)
      if bytes.bytesize > MOST_BYTES
        raise Error::UnusableTable,
          "The recording has #{bytes.bytesize / 1_000_000} MB; #{MOST_BYTES / 1_000_000} are read. Leave pictures and films out when you save it."
      end

      document = JSON.parse(
        bytes.dup.force_encoding(Encoding::UTF_8).delete_prefix("\uFEFF"),
        max_nesting: 60
      )
      entries = document.is_a?(Hash) ? document.dig("log", "entries") : nil
      unless entries.is_a?(Array)
        raise Error::UnusableTable, "This is JSON, but no recording: a HAR file holds “log” with “entries”."
      end

      new(document["log"])
    rescue JSON::ParserError, EncodingError, ArgumentError, TypeError
      raise Error::UnusableTable,
        "This is no whole HAR file: it cannot be read as JSON. Was it cut off while it was saved?"
    end

    # @param log [Hash] of a HAR document
    def initialize(log)
      @entries = log["entries"].first(MOST_ENTRIES).filter_map { |entry|
        entry.is_a?(Hash) ? read(entry) : nil
      }.sort_by
        .with_index { |entry, index| [entry.at, index] }
      @cut = [log["entries"].size - MOST_ENTRIES, 0].max
    end

    # @return [Array<String>] what was left out, in sentences
    def notes = @cut.zero? ? [] : ["#{@cut} entries beyond the first #{MOST_ENTRIES} were not read."]

    # @param signatures [Array<Signal::Signature>]
    # @param page_of [#call] how pages are told apart, given an Address
    # @return [Array<Browser::PageVisit>] one for each document that was opened, in order of time
    def visits(signatures, page_of: :page.to_proc)
      loads.first(MOST_PAGES).map do |document, beside, way|
        visit(document, beside, way, signatures, page_of)
      end
    end

    private

    def read(entry)
      request, response = entry.values_at("request", "response").map { |one| one.is_a?(Hash) ? one : {} }
      address = Address.parse(Browser::Secrets.address(request["url"].to_s))
      Entry.new(page: entry["pageref"].to_s,
        address: address,
        method: request["method"].to_s,
        status: response["status"].to_i,
        at: Time.iso8601(entry["startedDateTime"].to_s).to_f,
        body: request.dig("postData", "text").to_s.then { |text| text.empty? ? params(request) : text },
        type: request.dig("postData", "mimeType").to_s,
        redirect: response["redirectURL"].to_s,
        document: document?(entry, request, response),
        text: text(response["content"]),
        headers: response["headers"].to_a.grep(Hash).to_h { |one|
          [one["name"].to_s.downcase, one["value"].to_s]
        },
        held: entry["comment"] == Browser::Log::HELD)
    rescue Error::UnusableAddress, ArgumentError, TypeError, NoMethodError
      nil # One entry that cannot be read leaves the others as they are.
    end

    def params(request)
      request.dig("postData", "params").to_a
        .map { |one|
          "#{Address::Pair.encode(one["name"].to_s)}=#{Address::Pair.encode(one["value"].to_s)}"
        }.join("&")
    end

    def document?(entry, request, response)
      kind = entry["_resourceType"]
      return kind == "document" if kind

      response.dig("content", "mimeType").to_s.match?(%r{\A(?:text/html|application/xhtml)}i) &&
        request["headers"].to_a.none? { |one| one["name"].to_s.casecmp?("x-requested-with") }
    end

    def text(content)
      return unless content.is_a?(Hash) && content["text"].is_a?(String)

      if content["encoding"] == "base64"
        content["text"].unpack1("m").force_encoding(Encoding::UTF_8).scrub
      else
        content["text"]
      end
    end

    # The first document of a page that the recording names is the page; further ones stand in its frames.
    # Where it names none, every document is a page.
    #
    # @return [Array<Array(Entry, Array<Entry>, Array<Entry>)>] a document that stayed, what was asked for
    #   after it, and the redirects before it
    def loads
      found, ways, last = {}, Hash.new { |all, page| all[page] = [] }, nil
      @entries.each do |entry|
        load = entry.page.empty? ? last : found[entry.page]
        next load&.at(1)&.push(entry) if !entry.document || (load && !entry.page.empty?)
        next ways[entry.page] << entry if REDIRECTS.include?(entry.status) && !entry.redirect.empty?

        last = found[entry.page.empty? ? entry : entry.page] = [entry, [], ways.delete(entry.page).to_a]
      end
      found.values
    end

    def visit(document, beside, way, signatures, page_of)
      address = document.address
      markup = Page::Markup.new(document.text.to_s)
      installations = document.text ? signatures.flat_map { |one| one.installations(markup, address) } : []
      signals = beside.flat_map { |entry| signals(entry, document, signatures) }
      Browser::PageVisit.new(address: (way.first || document).address.raw,
        page: page_of.call(address),
        others: 0,
        final_address: address.raw,
        title: markup.title,
        reason: reason(document),
        signals: signals,
        tags: installations.map(&:tag).uniq,
        refused: [],
        held: [],
        watched: ((beside.last || document).at - document.at).*(1000).round,
        facts: Browser::PageVisit.facts(markup, address, document.headers, document.text.to_s),
        installations: installations,
        calls: Browser::PageVisit.calls(markup, installations, signatures), errors: [], earlier: [])
    end

    def reason(document)
      "#{document.address.raw[0, Cut::LINE]} answered #{document.status}." if document.status >= 400
    end

    # Cached answers have no status of their own; what has none was not answered at all.
    def signals(entry, document, signatures)
      signature = signatures.find { |one| one.on_wire?(entry.address) } or return []
      return [] if entry.method == "OPTIONS"

      found = signature.signals(
        entry.address,
        body: entry.body.empty? ? nil : entry.body,
        type: entry.type,
        page: document.address.raw,
        step: 1,
        at: ((entry.at - document.at) * 1000).round
      )
      found.each do |signal|
        signal.status = entry.status unless entry.held
        signal.method = entry.method
      end
    end
  end
end
