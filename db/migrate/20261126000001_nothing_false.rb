# frozen_string_literal: true

# Senders that nobody has named yet, evidence for what becomes of findings, and how far a workspace is explained.
class NothingFalse < ActiveRecord::Migration[7.2]
  def change
    senders
    add_reference :findings, :absent_in, index: true
    add_column :findings, :ended, :boolean, null: false, default: false
    add_index :findings, [:workspace_id, :fix_id, :current]
    add_column :workspaces, :changed_at, :datetime
    add_column :workspaces, :explained_at, :datetime
    add_column :workspaces, :explained_by, :string, null: false, default: ""
    reversible { |way| way.up { execute "UPDATE findings SET absent_in_id = sweep_id WHERE current = #{connection.quoted_false}" } }
  end

  private

  def senders
    create_table :senders do |t|
      t.references :workspace, null: false, index: false
      t.string :host, null: false
      t.string :decision, null: false, default: ""
      t.string :tag
      t.string :decided_by, null: false, default: ""
      t.datetime :decided_at
      t.string :example, null: false
      t.string :body, null: false, default: ""
      t.json :ways, null: false
      t.json :pages, null: false
      t.json :paths, null: false
      t.integer :times, null: false, default: 0
      t.datetime :seen_at, null: false
      t.timestamps
      t.index [:workspace_id, :host], unique: true
    end
  end
end
