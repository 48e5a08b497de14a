# frozen_string_literal: true

# Which operation is for whom, as specs hold it against the OpenAPI document.
module AccessTable
  # The least that each asks for. What is not named is for readers where it reads, for editors where it
  # changes something.
  LEAST = {
    "nobody" => ["GET /api/session", "POST /api/session", "DELETE /api/session", "GET /api/invitations/{token}", "POST /api/invitations/{token}", "POST /api/password-links"],
    "alone" => ["POST /api/owner"],
    "person" => ["GET /api/workspaces", "PATCH /api/account", "GET /api/account/sign-ins", "DELETE /api/account/sign-ins/{id}", "GET /api/account/second-factor", "POST /api/account/second-factor", "POST /api/account/second-factor/confirm", "POST /api/account/second-factor/turn-off"],
    "founder" => ["POST /api/workspaces", "POST /api/workspaces/look", "POST /api/bundles", "GET /api/bundles/{id}", "POST /api/bundles/{id}/stop"],
    "owner" => ["GET /api/workspaces/{workspace}/bundle.zip", "POST /api/workspaces/{workspace}/bundle", "GET /api/workspaces/{workspace}/bundle", "PATCH /api/workspaces/{workspace}", "DELETE /api/workspaces/{workspace}", "POST /api/workspaces/{workspace}/settings/take-back/{id}", "POST /api/workspaces/{workspace}/convention",
      "POST /api/workspaces/{workspace}/convention/versions/{version}/restore", "POST /api/workspaces/{workspace}/proposed-values/{id}", "POST /api/workspaces/{workspace}/senders/{id}", "POST /api/workspaces/{workspace}/click-hosts",
      "PATCH /api/workspaces/{workspace}/people/{id}", "POST /api/workspaces/{workspace}/people/{id}/password-link", "POST /api/workspaces/{workspace}/invitations",
      "DELETE /api/workspaces/{workspace}/invitations/{id}", "POST /api/workspaces/{workspace}/keys", "POST /api/workspaces/{workspace}/traffic/referrers", "DELETE /api/workspaces/{workspace}/keys/{id}",
      "POST /api/workspaces/{workspace}/recorders", "GET /api/workspaces/{workspace}/recorders/{id}", "DELETE /api/workspaces/{workspace}/recorders/{id}", "GET /api/workspaces/{workspace}/recorders/{id}/view.png",
      "POST /api/workspaces/{workspace}/recorders/{id}/acts"],
    "reader" => ["POST /api/workspaces/{workspace}/click-address", "POST /api/workspaces/{workspace}/convention/compare", "DELETE /api/workspaces/{workspace}/people/{id}"]
  }.freeze
  IN_PERSON = %r{\A(?:\w+ /api/account|\w+ /api/workspaces/\{workspace\}/(?:people/|invitations|keys))}
  OPERATIONS = ApiDocument.own.operations.map(&:to_s)
  # What each caller reaches, of the levels that an operation may ask for.
  REACH = {"stranger" => %w[nobody], "reader" => %w[nobody person reader], "editor" => %w[nobody person reader editor], "owner" => %w[nobody person founder reader editor owner],
           "alone" => %w[nobody alone person founder reader editor owner], "key of an editor" => %w[nobody person reader editor], "owner elsewhere" => %w[nobody person founder]}.freeze
end
