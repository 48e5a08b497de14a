# frozen_string_literal: true

# How far a file of passes has been read.
class PassLog < ActiveRecord::Base
end
