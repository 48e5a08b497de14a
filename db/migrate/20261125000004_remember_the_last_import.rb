# frozen_string_literal: true

# Which import has seen a sighting last, so that taking an earlier one back leaves what a later one holds too.
class RememberTheLastImport < ActiveRecord::Migration[7.2]
  def up
    add_reference :sightings, :last_import
    execute "UPDATE sightings SET last_import_id = import_id"
  end

  def down = remove_reference(:sightings, :last_import)
end
