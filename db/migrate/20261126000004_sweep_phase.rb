# frozen_string_literal: true

# What a sweep does at the moment.
class SweepPhase < ActiveRecord::Migration[7.2]
  def change
    change_table(:sweeps) { |t| t.string :phase, null: false, default: "trails" }
  end
end
