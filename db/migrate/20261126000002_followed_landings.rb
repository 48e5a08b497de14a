# frozen_string_literal: true

# What became of parameters on landing addresses that were followed for new links.
class FollowedLandings < ActiveRecord::Migration[7.2]
  def change
    create_table :followed_landings do |t|
      t.references :workspace, null: false, index: false
      t.string :normal_form, null: false
      t.string :outcome, null: false
      t.json :lost, null: false
      t.string :offer
      t.timestamps
      t.index [:workspace_id, :normal_form], unique: true
    end
  end
end
