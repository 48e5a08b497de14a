# frozen_string_literal: true

# The key of a network's interface belongs to the server that it was given for: to another it goes only where
# somebody types it anew.
module NetworkKey
  class << self
    # @param kept [Hash{String => String}, nil] the network as it is kept
    # @param address [String] that is to be asked
    # @param typed [String, nil]
    # @return [String, nil] the key that goes there; nil where there is none
    # @raise [Orvant::Error] where the one that is kept was given for another server
    def for(kept, address, typed)
      return typed if typed.present?

      key = kept.to_h["key"].to_s
      return if key.empty?
      return key if origin(kept["address"]) == origin(address)

      raise Orvant::Error, "The key of “#{kept["network"]}” was given for #{origin(kept["address"]).last(2).join(":")} and goes nowhere else: type it anew for #{origin(address).last(2).join(":")}, or take the network out and name it again."
    end

    # @param text [String, nil] as a person has typed it
    # @raise [Orvant::Error] where it is what only Orvant writes
    def hold_typed(text)
      return unless text.to_s.start_with?(Secret::MARK)

      raise Orvant::Error, "A key does not begin with “#{Secret::MARK}”."
    end

    private

    def origin(text)
      address = Orvant::Address.parse(text.to_s)
      [address.scheme, address.host, address.port]
    end
  end
end
