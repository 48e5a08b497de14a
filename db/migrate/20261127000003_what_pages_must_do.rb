# frozen_string_literal: true

# Goal pages with their events, variants, consent and counted events, beside the tags that are expected.
class WhatPagesMustDo < ActiveRecord::Migration[7.2]
  def change
    add_column :workspaces, :watching, :json, null: false, default: {}
  end
end
