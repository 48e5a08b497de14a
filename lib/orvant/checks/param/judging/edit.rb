# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # One change to one parameter of an address. pair: nil for a parameter to add · name, value: decoded, or
      # as it is to stand (Address::Pair::Written), nil where it stays · remove: whether it goes.
      Edit = Struct.new(:pair, :name, :value, :remove, keyword_init: true)
    end
  end
end
