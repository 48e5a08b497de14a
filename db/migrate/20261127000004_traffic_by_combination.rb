# frozen_string_literal: true

require "digest"
require "json"

# What visits have in common is kept and explained once; their figures by day; and sums by day for whoever looks.
class TrafficByCombination < ActiveRecord::Migration[7.2]
  DIMENSIONS = %i[source medium campaign content term landing referrer device country language host visitor click].freeze
  MEASURES = %i[sessions conversions revenue cost pages engaged events].freeze
  OLD = %i[source medium campaign content term landing referrer].freeze

  def up
    create_combinations
    rename_table :traffic_rows, :old_traffic_rows
    create_rows(:traffic_rows)
    create_rows(:replaced_rows) { |t| t.references :replaced_by, null: false }
    add_index :traffic_rows, [:workspace_id, :date]
    create_sums
    add_column :explanations, :cause, :string, null: false, default: ""
    add_column :explanations, :rightful_channel, :string
    carry_over
    drop_table :old_traffic_rows
    execute "UPDATE workspaces SET explained_by = '', changed_at = CURRENT_TIMESTAMP"
  end

  def down = raise(ActiveRecord::IrreversibleMigration)

  private

  def create_combinations
    create_table :combinations do |t|
      t.references :workspace, null: false, index: false, foreign_key: true
      t.string :digest, null: false
      DIMENSIONS.each { |field| t.string field, null: false, default: "" }
      t.json :own, null: false, default: {}
      MEASURES.each { |field| t.bigint field, null: false, default: 0 }
      t.date :first_on
      t.date :last_on
      t.integer :stale, null: false, default: 1
      t.boolean :told, null: false, default: false
      t.string :channel, null: false, default: ""
      t.string :because, null: false, default: ""
      t.string :nearest
      t.references :explanation, foreign_key: true
      t.index [:workspace_id, :digest], unique: true
      t.index [:workspace_id, :channel]
    end
  end

  def create_rows(table)
    create_table table do |t|
      t.references :workspace, null: false, index: false
      t.references :import, null: false, index: false
      t.references :combination, null: false, index: false
      t.date :date, null: false
      MEASURES.each { |field| t.bigint field, null: false, default: 0 }
      t.bigint :explanation_id
      yield t if block_given?
    end
  end

  def create_sums
    create_table :traffic_days do |t|
      t.references :workspace, null: false, index: false, foreign_key: true
      t.date :date, null: false
      t.string :channel, null: false
      t.bigint :explanation_id
      t.bigint :row_count, null: false, default: 0
      MEASURES.each { |field| t.bigint field, null: false, default: 0 }
      t.index [:workspace_id, :date]
    end
    create_table :stale_days do |t|
      t.references :workspace, null: false, index: false, foreign_key: true
      t.date :date, null: false
      t.index [:workspace_id, :date], unique: true
    end
  end

  # Row by row, as they were imported.
  def carry_over
    ids = {}
    select_all("SELECT * FROM old_traffic_rows ORDER BY id").each_slice(500) do |rows|
      rows.each { |row| ids[key(row)] ||= combination(row) }
      values = rows.map { |row| "(#{[row["workspace_id"], row["import_id"], ids[key(row)], quote(row["date"]), *row.values_at("sessions", "conversions", "revenue")].join(", ")})" }
      execute "INSERT INTO traffic_rows (workspace_id, import_id, combination_id, date, sessions, conversions, revenue) VALUES #{values.join(", ")}"
    end
    execute "INSERT INTO stale_days (workspace_id, date) SELECT DISTINCT workspace_id, date FROM traffic_rows"
  end

  def key(row) = [row["workspace_id"], *row.values_at(*OLD.map(&:to_s))]

  def combination(row)
    values = OLD.map { |field| row[field.to_s].to_s }
    digest = Digest::SHA256.hexdigest([*values, *Array.new(DIMENSIONS.size - OLD.size, "")].join("\u0000"))[0, 32]
    execute "INSERT INTO combinations (workspace_id, digest, #{OLD.join(", ")}, own) VALUES (#{[row["workspace_id"], *[digest, *values, "{}"].map { |text| quote(text) }].join(", ")})"
    select_value("SELECT id FROM combinations WHERE workspace_id = #{row["workspace_id"]} AND digest = #{quote(digest)}")
  end
end
