# frozen_string_literal: true

require "json"
require "net/http"
require "orvant"
require "uri"

# An Orvant that runs elsewhere, as a pipeline uses it: over its API, with a key.
class Remote
  # Seconds for one answer; a file may take longer to send.
  PATIENCE = 120

  # @param server [String] its address
  # @param key [String, nil]
  # @param workspace [String, nil] its name in addresses; the only one that is there where none is named
  # @raise [Orvant::Error] where the address is none
  def initialize(server, key, workspace = nil)
    @base = URI.parse(server.chomp("/"))
    unless @base.is_a?(URI::HTTP) && @base.host
      raise Orvant::Error, "“#{server}” is no address of an Orvant; write it as http://127.0.0.1:4600."
    end

    @key = key
    @workspace = workspace
  rescue URI::InvalidURIError
    raise Orvant::Error, "“#{server}” is no address of an Orvant; write it as http://127.0.0.1:4600."
  end

  # @param names [Array<String>] of the workspaces that are there
  # @param named [String, nil] by whoever asks
  # @return [String] the one that is meant
  # @raise [Orvant::Error] where that cannot be told; it names the choices
  def self.one_of(names, named = nil)
    return named if names.include?(named)
    return names.first if named.nil? && names.size == 1

    there = names.empty? ? "there is none yet" : "there are: #{names.join(", ")}"
    raise Orvant::Error, named ? "There is no workspace #{named}; #{there}." : "Say which workspace is meant (--workspace NAME); #{there}."
  end

  # @param path [String] below the workspace
  # @param query [Hash]
  # @return [Hash] the document that it answers with
  # @raise [Orvant::Error] with what it says, or why it cannot be reached
  def get(path, **query) = read(Net::HTTP::Get.new(address(path, query)))

  # @param path [String]
  # @param file [IO, String] what is written as it comes
  def download(path, file) = answer(Net::HTTP::Get.new(address(path, {}))) { |part| file.write(part) }

  # @param path [String]
  # @param body [String] JSON, or a file as it is
  # @param type [String]
  # @param query [Hash]
  # @return [Hash]
  # @raise [Orvant::Error]
  def post(path, body, type: "application/json", **query)
    request = Net::HTTP::Post.new(address(path, query), "content-type" => type)
    request.body = body
    read(request)
  end

  private

  def root = "#{@base.path}/api/workspaces"

  def workspace = URI.encode_www_form_component(@workspace ||= self.class.one_of(names))

  def names = read(Net::HTTP::Get.new(root)).fetch("workspaces", []).map { |one| one["name"] }

  def read(request)
    document = JSON.parse(answer(request).body)
    document.is_a?(Hash) ? document : raise(JSON::ParserError)
  rescue JSON::ParserError
    raise Orvant::Error, "#{@base} answers something else than an Orvant does: is this its address?"
  end

  def address(path, query)
    given = query.compact.reject { |_, value| value == "" }
    "#{root}/#{workspace}#{path}#{"?#{URI.encode_www_form(given)}" if given.any?}"
  end

  def answer(request)
    request["authorization"] = "Bearer #{@key}" if @key
    Net::HTTP.start(
      @base.host,
      @base.port,
      use_ssl: @base.scheme == "https",
      open_timeout: 10,
      read_timeout: PATIENCE,
      write_timeout: PATIENCE
    ) do |http|
      http.request(request) do |response|
        raise Orvant::Error, said(response) unless response.is_a?(Net::HTTPSuccess)

        block_given? ? response.read_body { |part| yield part } : response.read_body
      end
    end
  rescue SystemCallError, SocketError, IOError, Timeout::Error, OpenSSL::SSL::SSLError => error
    raise Orvant::Error, "#{@base} cannot be reached: #{error.message[0, Orvant::Cut::FAILURE]}."
  end

  def said(response)
    problem = JSON.parse(response.body.to_s)
    [problem["title"], problem["detail"]].compact.join(" ")
  rescue JSON::ParserError
    "#{@base} answers #{response.code}, which no Orvant does here."
  end
end
