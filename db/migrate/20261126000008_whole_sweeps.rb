# frozen_string_literal: true

# Whether a sweep was of everything: only those are compared, and tell when a workspace was last swept.
class WholeSweeps < ActiveRecord::Migration[7.2]
  def up
    add_column :sweeps, :whole, :boolean, null: false, default: true
    execute "UPDATE sweeps SET whole = #{quoted_false} WHERE fix_id IS NOT NULL"
  end

  def down = remove_column(:sweeps, :whole)

  private

  def quoted_false = ActiveRecord::Base.connection.quoted_false
end
