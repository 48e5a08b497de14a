# frozen_string_literal: true

# Whether a browser has looked at what a trail met, page by page.
class Looks < ActiveRecord::Migration[7.2]
  def change
    change_table :link_trails do |t|
      t.string :look, null: false, default: "http"
      t.json :looked
      t.string :look_key
      t.string :carried
      t.json :attempts
      t.index [:sweep_id, :look, :look_key]
    end
    change_table(:links) { |t| t.string :look, null: false, default: "" }
    change_table(:sweeps) { |t| t.integer :looks, null: false, default: 0 }
  end
end
