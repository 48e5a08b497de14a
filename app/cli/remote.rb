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
  # @param workspace [String] its name in addresses
  # @raise [Orvant::Error] where the address is none
  def initialize(server, key, workspace)
    @base = URI.parse(server.chomp("/"))
    unless @base.is_a?(URI::HTTP) && @base.host
      raise Orvant::Error, "“#{server}” is no address of an Orvant; write it as http://127.0.0.1:4600."
    end

    @key = key
    @root = "#{@base.path}/api/workspaces/#{URI.encode_www_form_component(workspace)}"
  rescue URI::InvalidURIError
    raise Orvant::Error, "“#{server}” is no address of an Orvant; write it as http://127.0.0.1:4600."
  end

  # @param path [String] below the workspace
  # @param query [Hash]
  # @return [Hash] the document that it answers with
  # @raise [Orvant::Error] with what it says, or why it cannot be reached
  def get(path, **query) = JSON.parse(answer(Net::HTTP::Get.new(address(path, query))).body)

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
    JSON.parse(answer(request).body)
  end

  private

  def address(path, query)
    given = query.compact.reject { |_, value| value == "" }
    "#{@root}#{path}#{"?#{URI.encode_www_form(given)}" if given.any?}"
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
