# frozen_string_literal: true

# Figures of a day that a later import of the same source has replaced: they come back where that is taken
# back.
class ReplacedRow < ActiveRecord::Base
end
