# frozen_string_literal: true

# What is asked for together stands in one index: of two that each hold a part, SQLite takes the one with all
# findings of a workspace, or of a sweep, and looks through them.
class FindingsOfLinks < ActiveRecord::Migration[7.2]
  def change
    add_index :findings, [:workspace_id, :link_id, :current]
    add_index :findings, [:sweep_id, :link_id]
    remove_index :findings, [:sweep_id]
  end
end
