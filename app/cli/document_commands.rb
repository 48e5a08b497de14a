# frozen_string_literal: true

require_relative "command"

# Documents that are made from the code.
class DocumentCommands < Command
  desc "checks", "Print the catalogue of checks as Markdown (docs/checks.md)"
  # Prints docs/checks.md, made from the check classes.
  def checks
    require_relative "checks_document"
    puts ChecksDocument.new
  end

  desc "roles", "Print who may do what as Markdown (docs/roles.md)"
  # Prints docs/roles.md, made from the OpenAPI document.
  def roles
    require_relative "roles_document"
    puts RolesDocument.new
  end
end
