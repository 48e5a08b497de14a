# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Composes the corrections of several findings into one address; parameters that no finding concerns
      # keep order and bytes.
      module Correction
        # @param address [Address] built well
        # @param edits [Array<Edit>]
        # @return [Address]
        def self.apply(address, edits)
          present, absent = edits.partition(&:pair)
          removed, changed = present.partition(&:remove)
          address.with(
            edits: changed.select(&:value).to_h { |edit| [edit.pair, edit.value] }
              .merge(removed.to_h { |edit| [edit.pair, nil] }),
            names: changed.select(&:name).to_h { |edit| [edit.pair, edit.name] },
            added: absent.map { |edit| [edit.name, edit.value] }.uniq
          )
        end
      end
    end
  end
end
