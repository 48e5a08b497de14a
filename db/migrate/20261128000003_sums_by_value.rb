# frozen_string_literal: true

# The rows of a day are summed by each value of what visits are told apart by too: whoever turns a table by
# weeks and campaigns need not read a million rows. All days are to be summed once; until then their rows are
# read.
class SumsByValue < ActiveRecord::Migration[7.2]
  MEASURES = %i[sessions conversions revenue cost pages engaged events].freeze

  def up
    create_table :value_days do |t|
      t.references :workspace, null: false, index: false, foreign_key: true
      t.string :dimension, null: false
      t.date :date, null: false
      t.date :week, null: false
      t.date :month, null: false
      t.text :value, null: false
      t.bigint :row_count, null: false, default: 0
      MEASURES.each { |field| t.bigint field, null: false, default: 0 }
      t.index [:workspace_id, :dimension, :date]
    end
    create_table :stale_value_days do |t|
      t.references :workspace, null: false, index: false, foreign_key: true
      t.date :date, null: false
      t.boolean :summing, null: false, default: false
      t.index [:workspace_id, :date], unique: true
    end
    execute "INSERT INTO stale_value_days (workspace_id, date) SELECT DISTINCT workspace_id, date FROM traffic_rows"
  end

  def down
    drop_table :value_days
    drop_table :stale_value_days
  end
end
