# frozen_string_literal: true

# What was found again is not absent: another finding stands for it.
class SupersededFindings < ActiveRecord::Migration[7.2]
  def change
    add_reference :findings, :superseded_in, index: false
    reversible { |way| way.up { execute found_again } }
  end

  private

  def found_again
    <<~SQL
      UPDATE findings SET superseded_in_id = absent_in_id, absent_in_id = NULL
      WHERE absent_in_id IS NOT NULL AND EXISTS (
        SELECT 1 FROM findings again
        WHERE again.sweep_id = findings.absent_in_id AND again.workspace_id = findings.workspace_id
          AND again.code = findings.code AND again.root = findings.root
          AND COALESCE(again.parameter, '') = COALESCE(findings.parameter, '')
          AND COALESCE(again.page, '') = COALESCE(findings.page, '')
          AND COALESCE(again.rehearsal, '') = COALESCE(findings.rehearsal, '')
          AND (COALESCE(again.link_id, 0) = COALESCE(findings.link_id, 0)
               OR again.link_id = (SELECT replaced_by_id FROM links WHERE links.id = findings.link_id)))
    SQL
  end
end
