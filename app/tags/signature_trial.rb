# frozen_string_literal: true

# Shows what a signature that is being written reads from requests that were recorded or pasted.
class SignatureTrial
  # @param document [Hash] a signature as it stands
  # @param requests [Array<Hash>] address, body and type of each
  def initialize(document, requests)
    @document = document
    @requests = requests
  end

  # @return [Hash{String => Object}] problem: why the signature is none yet, or nil · others: how many
  #   requests are none of its · read: Array of address and signals, of those that are
  def call
    signature = Orvant::Signal::Signature.read(@document)
    read = @requests.filter_map { |request| reading(signature, request) }
    {"problem" => nil, "others" => @requests.size - read.size, "read" => read}
  rescue Orvant::Error::UnusableDocument => error
    {"problem" => error.message, "others" => 0, "read" => []}
  end

  private

  def reading(signature, request)
    address = Orvant::Address.parse(request["address"])
    return unless signature.on_wire?(address)

    {
      "address" => address.raw,
      "signals" => signature.signals(address, body: request["body"], type: request["type"])
        .map { |one| one.to_h.slice("account", "event", "kind", "page", "values") }
    }
  rescue Orvant::Error::UnusableAddress
    nil
  end
end
