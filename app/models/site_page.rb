# frozen_string_literal: true

# One page that a crawl or a look at others' pages has read.
class SitePage < ActiveRecord::Base
  belongs_to :workspace
  belongs_to :import
end
