# frozen_string_literal: true

# What was really sold. Its visitor is kept as a salted digest.
class Order < ActiveRecord::Base
  belongs_to :workspace
  belongs_to :import
end
