# frozen_string_literal: true

# What networks claim, what was sold, and the visits before it.
class WhatWasClaimed < ActiveRecord::Migration[7.2]
  def change
    create_table :claims do |t|
      belonging(t)
      t.date :date, null: false
      %i[network account campaign ad].each { |field| t.string field, null: false, default: "" }
      %i[impressions clicks cost claimed claimed_value].each { |field| t.bigint field, null: false, default: 0 }
      t.index [:workspace_id, :date]
    end
    create_table :orders do |t|
      belonging(t)
      t.string :order_number, null: false
      t.datetime :at, null: false
      t.bigint :value, null: false, default: 0
      %i[currency visitor source coupon].each { |field| t.string field, null: false, default: "" }
      t.index [:workspace_id, :order_number], unique: true
      t.index [:workspace_id, :at]
    end
    create_table :touches do |t|
      belonging(t)
      t.string :visitor, null: false
      t.datetime :at, null: false
      %i[source medium campaign landing referrer].each { |field| t.string field, null: false, default: "" }
      t.index [:workspace_id, :visitor, :at]
    end
  end

  private

  def belonging(table)
    table.references :workspace, null: false, index: false, foreign_key: true
    table.references :import, null: false
  end
end
