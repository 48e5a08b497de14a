# frozen_string_literal: true

# What is older than a workspace keeps is one row for all passes of a day that are alike.
class PassesOfADay < ActiveRecord::Migration[7.1]
  def change
    add_column :signpost_passes, :times, :integer, null: false, default: 1
  end
end
