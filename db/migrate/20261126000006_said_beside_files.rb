# frozen_string_literal: true

# What a person says beside a file (its source, network, owner) is kept with its columns.
class SaidBesideFiles < ActiveRecord::Migration[7.2]
  def change
    add_column :column_matchings, :said, :json, null: false, default: {}
  end
end
