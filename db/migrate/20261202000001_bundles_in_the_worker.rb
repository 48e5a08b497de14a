# frozen_string_literal: true

# Bundles come in and go by the worker, into and out of workspaces that nobody sees meanwhile; what is to be
# done is kept beside the queue, which is not.
class BundlesInTheWorker < ActiveRecord::Migration[7.2]
  def change
    change_table :workspaces, bulk: true do |t|
      t.string :state, null: false, default: "open"
      t.boolean :rereading, null: false, default: false
      t.datetime :explaining_failed_at
      t.string :explaining_problem
    end
    create_table :bundle_imports do |t|
      t.references :person, index: false
      t.references :workspace, index: false
      t.string :filename, null: false, default: ""
      t.string :state, null: false, default: "waiting"
      t.bigint :done, null: false, default: 0
      t.bigint :total, null: false, default: 0
      t.integer :begun, null: false, default: 0
      t.json :notes, null: false, default: []
      t.string :problem
      t.timestamps
    end
    create_table :prepared_files do |t|
      t.references :workspace, null: false, foreign_key: true
      t.string :kind, null: false
      t.json :asked, null: false, default: {}
      t.string :asker, null: false, default: ""
      t.string :state, null: false, default: "waiting"
      t.string :problem
      t.bigint :bytes, null: false, default: 0
      t.string :author, null: false, default: ""
      t.timestamps
    end
    # What stands there was written as objects; it is made anew of what is unfinished.
    reversible { |way| way.up { execute "DELETE FROM delayed_jobs" } }
  end
end
