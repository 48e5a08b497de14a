# frozen_string_literal: true

require_relative "../config/environment"

# Orvant's own API, as whoever sits at this machine uses it: what the demo holds comes in where everybody's
# does, and is judged there.
class DemoDoor
  # Seconds between two looks at what the worker reads.
  PAUSE = 0.1

  def initialize
    @api = Rack::MockRequest.new(Api)
    @root = ""
  end

  # @param name [String] of the workspace that everything else is sent to
  def enter(name) = @root = "/api/workspaces/#{name}"

  # @param path [String] below the workspace
  # @param document [Hash, String] JSON, or a file as it is
  # @param said [Hash] what is said of the file
  # @return [Hash] the answer
  # @raise [SystemExit] with what the API says where it refuses
  def post(path, document, **said) = send_to("POST", path, document, said)

  # @param document [Hash{String => Object}] settings that are to change
  # @return [Hash]
  def patch(document) = send_to("PATCH", "", document, {})

  # Reads a file, or collects over the network.
  #
  # @return [void]
  # @raise [SystemExit] where nothing could be read
  def import(bytes, kind, filename:, **said)
    finish(post("/imports", bytes, kind: kind, filename: filename, **said))
  end

  # @param wish [Hash] where from
  # @return [Integer] the import
  def fetch(**wish) = finish(post("/imports/fetch", wish))

  # Does what stands in the queue, beside a worker that may be at it already.
  # @return [void]
  def work
    Delayed::Worker.new(quiet: true).work_off(1_000)
    sleep PAUSE while Delayed::Job.where(failed_at: nil).exists?
  end

  private

  def send_to(method, path, document, said)
    type = document.is_a?(String) ? "application/octet-stream" : "application/json"
    body = document.is_a?(String) ? document : JSON.generate(document)
    query = URI.encode_www_form(said.transform_values { |value|
      value.is_a?(Hash) ? JSON.generate(value) : value
    })
    response = @api.request(
      method,
      "http://127.0.0.1#{@root}#{path}?#{query}",
      :input => body,
      "CONTENT_TYPE" => type,
      "HTTP_HOST" => "127.0.0.1",
      Resource::CALLER => Caller.new(alone: true)
    )
    answer = JSON.parse(response.body)
    if response.successful?
      answer
    else
      abort("The demo could not be loaded: #{answer["title"]} #{answer["detail"]}")
    end
  end

  def finish(import)
    work if Import::ACTIVE.include?(import["state"])
    kept = Import.find(import["id"])
    return kept.id if kept.state == "done"

    abort "#{kept.filename} could not be collected: #{kept.problem}"
  end
end
