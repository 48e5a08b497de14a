# frozen_string_literal: true

# One ad or entry of a whole source, as it was when it was read: what the next reading is compared with.
class ImportEntry < ActiveRecord::Base
  belongs_to :import
end
