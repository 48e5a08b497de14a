# frozen_string_literal: true

# A word that a person has put on a link.
class LinkLabel < ActiveRecord::Base
  belongs_to :link
end
