# frozen_string_literal: true

# One passing of a signpost.
class SignpostPass < ActiveRecord::Base
  belongs_to :signpost
end
