# frozen_string_literal: true

# Rows whose day is explained otherwise than their combination are few, and are found without reading the others.
class DaysExplainedOtherwise < ActiveRecord::Migration[7.2]
  def change
    add_index :traffic_rows, :workspace_id, where: "explanation_id IS NOT NULL", name: "index_traffic_rows_explained_otherwise"
  end
end
