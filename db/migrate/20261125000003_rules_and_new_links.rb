# frozen_string_literal: true

# Versions of conventions with their authors, waivers, build sheets, templates and signposts.
class RulesAndNewLinks < ActiveRecord::Migration[7.2]
  def change
    add_column :convention_versions, :author, :string, null: false, default: ""
    add_column :convention_versions, :restores, :integer
    add_column :findings, :waived_until, :date
    add_column :findings, :over_all, :boolean, null: false, default: false
    add_index :findings, [:workspace_id, :over_all]
    waivers
    sheets
    signposts
    values
  end

  private

  def waivers
    create_table :waivers do |t|
      t.references :workspace, null: false, index: false
      t.references :link
      t.string :code, null: false
      t.string :subject, null: false
      t.string :detail, null: false
      t.string :reason, null: false
      t.string :author, null: false, default: ""
      t.date :ends, null: false
      t.datetime :over_at
      t.timestamps
      t.index [:workspace_id, :subject, :code]
    end
  end

  def sheets
    create_table :build_sheets do |t|
      t.references :workspace, null: false
      t.string :name, null: false
      t.json :rows, null: false
      t.integer :lock_version, null: false, default: 0
      t.datetime :thrown_away_at
      t.timestamps
    end
    create_table :row_templates do |t|
      t.references :workspace, null: false, index: false
      t.string :name, null: false
      t.json :rows, null: false
      t.timestamps
      t.index [:workspace_id, :name], unique: true
    end
  end

  def signposts
    create_table :signposts do |t|
      t.references :workspace, null: false
      t.references :link
      t.string :host, null: false
      t.string :path, null: false
      t.string :normal_path, null: false
      t.string :target, null: false
      t.string :caption, null: false, default: ""
      t.string :pass_on, null: false, default: "keep"
      t.date :ends
      t.datetime :taken_down_at
      t.timestamps
      t.index [:host, :normal_path], unique: true
    end
    create_table :signpost_targets do |t|
      t.references :signpost, null: false
      t.string :target, null: false
      t.string :author, null: false, default: ""
      t.string :note, null: false, default: ""
      t.datetime :created_at, null: false
    end
    create_table :signpost_passes do |t|
      t.references :signpost, null: false, index: false
      t.datetime :at, null: false
      t.string :referrer, null: false, default: ""
      t.string :device, null: false, default: ""
      t.boolean :bot, null: false, default: false
      t.boolean :repeat, null: false, default: false
      t.string :visitor, null: false, default: ""
      t.index [:signpost_id, :at]
      t.index [:signpost_id, :visitor]
    end
    create_table :pass_logs do |t|
      t.string :name, null: false, index: {unique: true}
      t.bigint :offset, null: false, default: 0
    end
  end

  def values
    create_table :proposed_values do |t|
      t.references :workspace, null: false
      t.string :role, null: false
      t.string :value, null: false
      t.string :reason, null: false, default: ""
      t.string :author, null: false, default: ""
      t.string :state, null: false, default: "open"
      t.timestamps
    end
  end
end
