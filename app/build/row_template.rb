# frozen_string_literal: true

# Rows for recurring work, with fields to fill.
class RowTemplate < ActiveRecord::Base
  belongs_to :workspace

  # @return [Orvant::Build::Template]
  def template = Orvant::Build::Template.new(rows)

  # @return [Hash{String => Object}]
  def as_document = {"id" => id, "name" => name, "rows" => rows, "fields" => template.fields}
end
