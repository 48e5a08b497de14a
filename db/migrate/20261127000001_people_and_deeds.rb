# frozen_string_literal: true

# Who may do what: people with a role in each workspace, how they sign in, keys for pipelines, and what they did that has no row elsewhere.
class PeopleAndDeeds < ActiveRecord::Migration[7.2]
  def change
    people
    ways_in
    deeds
    %i[link_acts imports sweeps].each { |table| add_column table, :author, :string, null: false, default: "" }
    add_column :build_sheets, :thrown_away_by, :string, null: false, default: ""
    add_column :signposts, :taken_down_by, :string, null: false, default: ""
  end

  private

  def people
    create_table :people do |t|
      t.string :mail, null: false, index: {unique: true}
      t.string :name, null: false
      t.string :password_digest, null: false
      t.boolean :founder, null: false, default: false
      t.timestamps
    end
    create_table :memberships do |t|
      t.references :person, null: false, index: false
      t.references :workspace, null: false
      t.string :role, null: false
      t.timestamps
      t.index [:person_id, :workspace_id], unique: true
    end
  end

  # Of what lets somebody in, only digests are kept.
  def ways_in
    create_table :sign_ins do |t|
      t.references :person, null: false
      t.string :digest, null: false, index: {unique: true}
      t.datetime :seen_at, null: false
      t.timestamps
    end
    create_table :invitations do |t|
      t.references :workspace
      t.references :person
      t.string :purpose, null: false
      t.string :mail, null: false, default: ""
      t.string :role, null: false, default: ""
      t.string :author, null: false, default: ""
      t.string :digest, null: false, index: {unique: true}
      t.datetime :ends_at, null: false
      t.datetime :used_at
      t.timestamps
    end
    create_table :api_keys do |t|
      t.references :workspace, null: false
      t.string :name, null: false
      t.string :role, null: false
      t.string :author, null: false, default: ""
      t.string :digest, null: false, index: {unique: true}
      t.datetime :used_at
      t.datetime :taken_back_at
      t.timestamps
    end
  end

  def deeds
    create_table :deeds do |t|
      t.references :workspace, null: false, index: false
      t.string :author, null: false, default: ""
      t.string :said, null: false
      t.string :setting, null: false, default: ""
      t.json :before
      t.json :after
      t.datetime :undone_at
      t.timestamps
      t.index [:workspace_id, :created_at]
    end
  end
end
