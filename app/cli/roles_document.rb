# frozen_string_literal: true

require_relative "../api/api_document"

# docs/roles.md: who may do what, as the OpenAPI document says.
class RolesDocument
  SAID = {
    "nobody" => "Anybody",
    "alone" => "One alone, before there is an account",
    "person" => "Anybody who has signed in",
    "founder" => "The founder, and owners of a workspace",
    "reader" => "Readers",
    "editor" => "Editors",
    "owner" => "Owners"
  }.freeze

  # @return [String] Markdown
  def to_s
    ["# Who may do what",
      "",
      "Made from the rooms’ parts of the API’s document (app/*/openapi.yaml) by `bin/orvant roles`. Each role may what stands above it, too; a spec holds every line against every role.",
      "",
      *SAID.flat_map { |role, said|
        section(
          said,
          ApiDocument.own.operations.select { |one| one.role == role }
        )
      }].join("\n")
  end

  private

  def section(said, all)
    [
      "## #{said}",
      "",
      *all.map { |one| "- #{one.summary}#{" (in person, not with a key)" if one.in_person}: `#{one}`" },
      ""
    ]
  end
end
