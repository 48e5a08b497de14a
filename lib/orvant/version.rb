# frozen_string_literal: true

module Orvant
  VERSION = "0.1.0"
end
