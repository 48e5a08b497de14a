# frozen_string_literal: true

# What was found in recordings that people brought stays, with a link to it.
class KeptRecordings < ActiveRecord::Migration[7.2]
  def change
    create_table :kept_recordings do |t|
      t.references :workspace, null: false, foreign_key: true
      t.string :filename, null: false
      t.string :author, null: false, default: ""
      t.json :document, null: false
      t.datetime :created_at, null: false
    end
  end
end
