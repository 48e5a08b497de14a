# frozen_string_literal: true

# The settings by which a sweep judges, each state of them once: a look proves only what it asked.
class Questions < ActiveRecord::Migration[7.2]
  def change
    create_table :questions do |t|
      t.references :workspace, null: false, foreign_key: true
      t.string :digest, null: false
      t.json :settings, null: false
      t.datetime :created_at, null: false
      t.index [:workspace_id, :digest], unique: true
    end
    add_reference :sweeps, :question
    # What has changed since, where it is no longer asked whether a finding is there.
    add_column :findings, :unasked, :json
  end
end
