# frozen_string_literal: true

# Workers say that they live, so that another takes up what a dead one left; workspaces can be put away.
class HeartbeatsAndArchives < ActiveRecord::Migration[7.2]
  def change
    create_table :heartbeats do |t|
      t.string :worker, null: false, index: {unique: true}
      t.datetime :at, null: false
    end
    add_column :workspaces, :archived_at, :datetime
  end
end
