# frozen_string_literal: true

# What a network says that an ad brought on a day.
class Claim < ActiveRecord::Base
  FIELDS = %i[date network account campaign ad impressions clicks cost claimed claimed_value].freeze

  belongs_to :workspace
  belongs_to :import

  # @return [Orvant::Traffic::Claim]
  def core = Orvant::Traffic::Claim.new(**FIELDS.to_h { |field| [field, self[field]] })
end
