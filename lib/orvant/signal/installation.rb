# frozen_string_literal: true

module Orvant
  class Signal
    # One place at which a tag stands in a page's markup.
    #
    # tag · account: nil where the markup does not say · head: whether it stands in the head · position:
    # number of the script on the page, from 1 · how: `script` (its source) or `inline` (a base code in its
    # text).
    Installation = Struct.new(:tag, :account, :head, :position, :how, keyword_init: true) do
      # @return [Hash{String => Object}] for JSON
      def to_h = members.to_h { |name| [name.to_s, self[name]] }
    end
  end
end
