# frozen_string_literal: true

# Access logs that are read as they grow.
class FollowedLogs < ActiveRecord::Migration[7.2]
  def change
    create_table :followed_logs do |t|
      t.references :workspace, null: false, foreign_key: true
      t.string :path, null: false
      t.string :host, null: false, default: ""
      t.string :source, null: false
      t.bigint :inode
      t.bigint :size
      t.date :day
      t.references :import
      t.datetime :read_at
      t.integer :took_ms, null: false, default: 0
      t.string :problem
      t.index [:workspace_id, :path], unique: true
    end
  end
end
