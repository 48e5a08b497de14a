# frozen_string_literal: true

# What was seen on one landing page in one sweep.
class PageVisit < ActiveRecord::Base
  belongs_to :sweep
  belongs_to :workspace
end
