# frozen_string_literal: true

# A second factor, sign-ins that can be told apart and end by themselves, tries that wait longer and longer, and
# who made an invitation or a key.
class PeopleKeptApart < ActiveRecord::Migration[7.2]
  def change
    change_table :people, bulk: true do |t|
      t.string :totp_secret
      t.datetime :totp_since
      t.bigint :totp_used, null: false, default: 0
      t.json :recovery_digests, null: false, default: []
    end
    add_column :workspaces, :second_factor, :boolean, null: false, default: false
    change_table :sign_ins, bulk: true do |t|
      t.string :machine, null: false, default: ""
      t.string :agent, null: false, default: ""
    end
    add_reference :invitations, :made_by, index: false
    add_column :invitations, :reach, :string, null: false, default: ""
    add_reference :api_keys, :made_by, index: false
    create_table :tries do |t|
      t.string :digest, null: false, index: {unique: true}
      t.integer :count, null: false, default: 0
      t.datetime :last_at, null: false
      t.datetime :next_at, null: false
    end
  end
end
