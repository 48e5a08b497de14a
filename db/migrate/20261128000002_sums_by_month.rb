# frozen_string_literal: true

# What has something in common is summed by month too: whoever looks at a period or at a list need not read a
# million rows. All months are to be summed once; until then their rows are read.
class SumsByMonth < ActiveRecord::Migration[7.2]
  MEASURES = %i[sessions conversions revenue cost pages engaged events].freeze

  def up
    create_table :combination_months do |t|
      t.references :workspace, null: false, index: false, foreign_key: true
      t.references :combination, null: false, index: false
      t.date :month, null: false
      t.bigint :row_count, null: false, default: 0
      MEASURES.each { |field| t.bigint field, null: false, default: 0 }
      t.bigint :most_sessions, null: false, default: 0
      t.bigint :most_revenue, null: false, default: 0
      t.index [:workspace_id, :month, :combination_id], unique: true, name: "index_combination_months"
    end
    create_table :stale_months do |t|
      t.references :workspace, null: false, index: false, foreign_key: true
      t.date :month, null: false
      t.boolean :summing, null: false, default: false
      t.index [:workspace_id, :month], unique: true
    end
    day = connection.adapter_name.match?(/sqlite/i) ? "TEXT" : "DATE"
    execute "INSERT INTO stale_months (workspace_id, month) SELECT DISTINCT workspace_id, CAST(SUBSTR(CAST(date AS TEXT), 1, 7) || '-01' AS #{day}) FROM traffic_rows"
  end

  def down
    drop_table :combination_months
    drop_table :stale_months
  end
end
