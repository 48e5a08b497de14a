# frozen_string_literal: true

# What stands in an ad's click address only as an example of what its network fills in.
class SamplesOfAds < ActiveRecord::Migration[7.2]
  def change
    add_column :sightings, :samples, :json
  end
end
