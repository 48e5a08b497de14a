# frozen_string_literal: true

# Most visits have no dimension of a workspace's own: which do is found without looking at all.
class OwnDimensions < ActiveRecord::Migration[7.2]
  def up
    add_column :combinations, :tells_own, :boolean, null: false, default: false
    execute "UPDATE combinations SET tells_own = TRUE WHERE (CAST(own AS TEXT) || '') <> '{}'"
    add_index :combinations, :workspace_id, where: "tells_own", name: "index_combinations_that_tell_own"
  end

  def down
    remove_index :combinations, name: "index_combinations_that_tell_own"
    remove_column :combinations, :tells_own
  end
end
