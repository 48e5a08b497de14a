# frozen_string_literal: true

module Orvant
  # The work that removes a finding. action: one sentence that says what to do · value: the exact text to
  # paste, or nil · at: `sighting` (wherever the link stands), `server`, `page`, `settings` or `convention` ·
  # place: its name, nil at a sighting.
  Remedy = Struct.new(:action, :value, :at, :place, keyword_init: true) do
    def to_h = members.to_h { |name| [name.to_s, self[name]] }
  end
end
