# frozen_string_literal: true

class Api
  helpers do
    def importing
      kind = params["kind"].to_s
      unless %w[links traffic].include?(kind)
        raise Problem.new(:unusable_input,
          "Say what the file holds: kind=links or kind=traffic.")
      end
      raise Problem.new(:too_large) if request.content_length.to_i > MAX_UPLOAD

      Importing.of(kind).new(workspace, request.body.read(MAX_UPLOAD + 1).to_s,
        filename: params.fetch("filename", "upload.csv"))
    end

    def one_import = workspace.imports.find(params["id"])
  end

  post "/api/workspaces/:workspace/imports/preview" do
    json(importing.preview)
  end

  post "/api/workspaces/:workspace/imports" do
    status 201
    json(importing.call.as_document)
  end

  get "/api/workspaces/:workspace/imports" do
    json("imports" => workspace.imports.order(id: :desc).limit(100).map(&:as_document))
  end

  get "/api/workspaces/:workspace/imports/:id" do
    json(one_import.as_document)
  end

  get "/api/workspaces/:workspace/imports/:id/rejected.csv" do
    csv("rejected.csv", %w[line reason cells], one_import.rejected.map { |row| [row["line"], row["reason"], *row["cells"]] })
  end

  delete "/api/workspaces/:workspace/imports/:id" do
    ImportRemoval.new(one_import).call
    status 204
  end
end
