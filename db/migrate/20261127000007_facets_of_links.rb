# frozen_string_literal: true

# Links are counted by what lists are narrowed by, without reading a row.
class FacetsOfLinks < ActiveRecord::Migration[7.1]
  def change
    add_index :links, %i[workspace_id retired_at excluded_at kind owner outcome status], name: "index_links_on_facets"
  end
end
