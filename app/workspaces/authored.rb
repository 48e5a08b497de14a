# frozen_string_literal: true

# Keeps who made a row: the person who has signed in, whatever was typed; else what was typed.
module Authored
  extend ActiveSupport::Concern

  included do
    before_create { self.author = Acting.author unless Acting.author.empty? }
  end
end
