# frozen_string_literal: true

# How a workspace's sites are asked, as whom, and how long what was seen is kept; {} is as usual.
class PaceAndKeeping < ActiveRecord::Migration[7.2]
  def change
    add_column :workspaces, :preferences, :json, null: false, default: {}
  end
end
