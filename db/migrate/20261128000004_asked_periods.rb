# frozen_string_literal: true

# Periods that people look at are summed as they are, by combination: whoever turns a table over days that cut
# two months need not add up a third of a million rows each time.
class AskedPeriods < ActiveRecord::Migration[7.2]
  MEASURES = %i[sessions conversions revenue cost pages engaged events].freeze

  def change
    create_table :asked_periods do |t|
      t.references :workspace, null: false, index: false, foreign_key: true
      t.date :first_on, null: false
      t.date :last_on, null: false
      t.date :asked_on, null: false
      t.integer :stale, null: false, default: 1
      t.index [:workspace_id, :first_on, :last_on], unique: true, name: "index_asked_periods"
    end
    create_table :period_sums do |t|
      t.references :workspace, null: false, index: false, foreign_key: true
      t.references :asked_period, null: false, index: false, foreign_key: true
      t.references :combination, null: false, index: false
      t.bigint :row_count, null: false, default: 0
      MEASURES.each { |field| t.bigint field, null: false, default: 0 }
      t.index [:asked_period_id, :combination_id], unique: true, name: "index_period_sums"
    end
  end
end
