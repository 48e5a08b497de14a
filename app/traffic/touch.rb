# frozen_string_literal: true

# One visit of somebody, told apart by a salted digest.
class Touch < ActiveRecord::Base
  FIELDS = %i[source medium campaign landing referrer].freeze

  belongs_to :workspace
  belongs_to :import
end
