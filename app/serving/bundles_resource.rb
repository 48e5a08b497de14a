# frozen_string_literal: true

# Whole workspaces as bundles: written and read by the worker.
class BundlesResource < Resource
  MOST = 512 * 1_048_576
  CHUNK = 1_048_576

  # A whole workspace of a bundle that this or another Orvant has written.
  post "/api/bundles" do
    file = received
    bringing = BundleImport.begin!(file, person: who.person, filename: line(params["filename"]))
    status 202
    typed_json(bringing.as_document)
  ensure
    FileUtils.rm_f(file) if file
  end

  get "/api/bundles/:id" do
    typed_json(bringing.as_document)
  end

  post "/api/bundles/:id/stop" do
    bringing.stop
    typed_json(bringing.reload.as_document)
  end

  post "/api/workspaces/:workspace/bundle" do
    status 202
    BundleWriter.hold_still(workspace)
    typed_json(PreparedFile.file!(workspace, "bundle").as_document)
  end

  get "/api/workspaces/:workspace/bundle" do
    typed_json(prepared.as_document)
  end

  get "/api/workspaces/:workspace/bundle.zip" do
    unless prepared.ready?
      raise Problem.new(:not_ready, prepared.problem || "The archive is not written yet: ask for it first, and fetch it when its state is done.")
    end

    send_file prepared.file, type: "application/zip", filename: "#{workspace.name}.zip"
  end

  # Answers that the worker makes.
  get "/api/workspaces/:workspace/prepared/:id" do
    typed_json(own_answer.as_document)
  end

  get "/api/workspaces/:workspace/prepared/:id/content" do
    raise Problem.new(:not_ready, own_answer.problem) unless own_answer.ready?

    json(JSON.parse(File.read(own_answer.file)))
  end

  private

  # Only who asked for one sees it.
  def own_answer
    @own_answer ||= PreparedFile.where(workspace: workspace, asker: who.mark, kind: PreparedFile::DOCUMENTS.keys)
      .find(params["id"])
  end

  # Only whoever brings one in sees how it goes.
  def bringing = @bringing ||= BundleImport.find_by!(id: params["id"], person_id: who.person&.id)

  def prepared
    @prepared ||= PreparedFile.where(workspace: workspace, kind: "bundle").order(:id).last ||
      raise(Problem.new(:not_found, "Nobody has asked for this archive, or it is older than a day: ask for it anew."))
  end

  # @return [String] path of what was sent, which may be large
  def received
    path = Settings.var("bundles", "received-#{SecureRandom.hex(8)}")
    File.open(path, "wb") do |file|
      while (chunk = request.body&.read(CHUNK)) && !chunk.empty?
        file.write(chunk)
        raise Problem.new(:too_large, "A bundle is at most #{MOST / CHUNK} MB.") if file.size > MOST
      end
    end
    path
  rescue
    FileUtils.rm_f(path)
    raise
  end
end
