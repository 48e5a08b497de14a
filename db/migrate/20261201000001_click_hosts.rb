# frozen_string_literal: true

# Hosts that stand in click addresses of ads: none is asked before a person has said whether it charges. Those
# of ads that are there already are known at once.
class ClickHosts < ActiveRecord::Migration[7.2]
  def up
    create_table :click_hosts do |t|
      t.references :workspace, null: false, foreign_key: true
      t.string :host, null: false
      t.string :part, null: false, default: ""
      t.string :network, null: false, default: ""
      t.string :place, null: false, default: ""
      t.text :example
      t.datetime :created_at, null: false
      t.index [:workspace_id, :host], unique: true
    end
    ids = select_values("SELECT DISTINCT workspace_id FROM sightings WHERE kind = 'ad'")
    ClickHost.reset_column_information
    ids.each { |id| ClickHost.know(id) }
  end

  def down = drop_table(:click_hosts)
end
