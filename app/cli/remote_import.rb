# frozen_string_literal: true

require_relative "remote_sweep"

# A file that goes to an Orvant that runs.
class RemoteImport
  # @param remote [Remote]
  def initialize(remote)
    @remote = remote
  end

  # @param bytes [String]
  # @param name [String] of the file
  # @param said [Hash{String => String}] kind, source, network, host
  # @return [Hash] the import, as it ended
  # @raise [Orvant::Error]
  def call(bytes, name, said)
    import = @remote.post(
      "/imports",
      bytes,
      type: "application/octet-stream",
      filename: name,
      **said.transform_keys(&:to_sym)
    )
    while %w[waiting running stopping].include?(import["state"])
      sleep RemoteSweep::EVERY
      import = @remote.get("/imports/#{import["id"]}")
    end
    raise Orvant::Error, import["problem"].to_s if import["state"] == "failed"

    import
  end
end
