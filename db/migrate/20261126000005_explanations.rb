# frozen_string_literal: true

# Why sessions got their channel is kept once for all rows that are explained alike; what rows are filtered by has rows of its own.
class Explanations < ActiveRecord::Migration[7.2]
  def up
    create_table :explanations do |t|
      t.references :workspace, null: false, index: false, foreign_key: true
      t.string :digest, null: false
      t.json :causes, null: false
      t.index [:workspace_id, :digest], unique: true
    end
    create_table(:explanation_roots) do |t|
      t.references :explanation, null: false, foreign_key: {on_delete: :cascade}
      t.string :root, null: false, index: true
    end
    create_table(:explanation_links) do |t|
      t.references :explanation, null: false, foreign_key: {on_delete: :cascade}
      t.bigint :link_id, null: false, index: true
    end
    add_reference :traffic_rows, :explanation, foreign_key: true
    # Explained anew, they get their causes again.
    execute "UPDATE traffic_rows SET because = '', cause = '', rightful_channel = NULL"
    execute "UPDATE workspaces SET explained_by = '', changed_at = CURRENT_TIMESTAMP"
    remove_columns :traffic_rows, :causes, :roots
  end

  def down = raise(ActiveRecord::IrreversibleMigration)
end
