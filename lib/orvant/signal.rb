# frozen_string_literal: true

module Orvant
  # One request by a tag, decoded by its signature.
  #
  # tag · account · event · kind: `page_view`, `conversion`, `other` or `unreadable` · values: Hash of field
  # or role to value · page: the address it left from · step: number of the rehearsal's step, from 1 · at:
  # milliseconds since the visit began · request: the raw address · status: with which the tag's server
  # answered, 0 where it did not; nil where a sealed browser answered in its place · method · way: how it was
  # sent, in a word for people (`beacon`, `picture`, `request`); nil where that is not known.
  Signal = Struct.new(
    :tag,
    :account,
    :event,
    :kind,
    :values,
    :page,
    :step,
    :at,
    :request,
    :status,
    :method,
    :way,
    keyword_init: true
  )

  class Signal
    # The kind of what was sent to a tag and could not be read.
    UNREADABLE = "unreadable"

    # @return [Hash{String => Object}] for JSON
    def to_h = members.to_h { |name| [name.to_s, self[name]] }

    # @param document [Hash] what `to_h` gave
    # @return [Signal]
    def self.from_h(document) = new(**document.transform_keys(&:to_sym))

    def page_view? = kind == "page_view"

    def conversion? = kind == "conversion"

    def unreadable? = kind == UNREADABLE

    # @return [Array] what makes two conversions the same one: the order number, else event and page
    def key = values["order"] ? [tag, event, values["order"]] : [tag, event, page.to_s.sub(/[?#].*/, "")]
  end
end
