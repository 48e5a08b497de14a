# frozen_string_literal: true

# Sightings are looked up by their links, those that have not ended. By an index of either alone SQLite took the
# other one, and read all that have not ended for the few of one link.
class SightingsOfLinks < ActiveRecord::Migration[7.2]
  def change
    add_index :sightings, %i[link_id ended_by_id]
    remove_index :sightings, :link_id
  end
end
