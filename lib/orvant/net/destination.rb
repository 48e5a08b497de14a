# frozen_string_literal: true

module Orvant
  module Net
    # The very server to connect to, as checked: an IP address and a port.
    Destination = Struct.new(:ip, :port, keyword_init: true)
  end
end
