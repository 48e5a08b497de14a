# frozen_string_literal: true

# What collecting from many sources and following as several visitors need to keep.
class CollectAndFollow < ActiveRecord::Migration[7.2]
  def change
    extend_workspace
    extend_imports
    extend_links
    extend_sweeps
  end

  private

  def extend_workspace
    add_column :workspaces, :expected_fields, :json, null: false, default: []
    add_column :workspaces, :networks, :json, null: false, default: []
    create_table :column_matchings do |t|
      t.references :workspace, null: false, index: false
      t.string :kind, null: false
      t.string :name, null: false
      t.json :header, null: false
      t.json :matching, null: false
      t.timestamps
      t.index [:workspace_id, :kind, :name], unique: true
    end
  end

  def extend_imports
    change_table :imports do |t|
      t.string :state, null: false, default: "done"
      t.string :source, null: false, default: ""
      t.json :options, null: false, default: {}
      t.integer :done, null: false, default: 0
      t.integer :total, null: false, default: 0
      t.integer :ended, null: false, default: 0
      t.string :problem
      t.json :apart, null: false, default: []
      t.json :differences, null: false, default: []
    end
    create_table :import_entries do |t|
      t.references :import, null: false
      t.string :key, null: false
      t.json :document, null: false
    end
    create_table :site_pages do |t|
      t.references :workspace, null: false, index: false
      t.references :import, null: false
      t.string :page, null: false
      t.json :document, null: false
      t.index [:workspace_id, :page]
    end
  end

  def extend_links
    change_table :sightings do |t|
      t.string :status, null: false, default: ""
      t.integer :clicks
      t.integer :conversions
      t.string :key
      t.string :declared
      t.json :click
      t.string :text
      t.string :part
      t.string :page
      t.string :target
      t.json :facts
      t.references :ended_by
    end
    change_table :links do |t|
      t.string :status, null: false, default: ""
      t.string :assigned_owner, null: false, default: ""
      t.datetime :excluded_at
      t.index [:workspace_id, :status, :id]
      t.index [:workspace_id, :retired_at, :findings_count], name: "index_links_on_wrong"
    end
    create_table :link_labels do |t|
      t.references :workspace, null: false, index: false
      t.references :link, null: false, index: false
      t.string :label, null: false
      t.index [:link_id, :label], unique: true
      t.index [:workspace_id, :label, :link_id]
    end
    create_table :link_acts do |t|
      t.references :workspace, null: false
      t.string :act, null: false
      t.string :value, null: false, default: ""
      t.json :before, null: false
      t.datetime :undone_at
      t.timestamps
    end
  end

  def extend_sweeps
    change_table :link_trails do |t|
      t.string :visitor, null: false, default: "desktop"
      t.json :landing
      t.float :ms
      t.string :shape, null: false, default: ""
    end
    remove_index :link_trails, column: [:sweep_id, :link_id], unique: true
    add_index :link_trails, [:sweep_id, :link_id, :visitor], unique: true
  end
end
