# frozen_string_literal: true

require "active_support/current_attributes"

# Who is at work in this request; "" where nobody has signed in.
class Acting < ActiveSupport::CurrentAttributes
  attribute :author, default: ""
end
