# frozen_string_literal: true

# Files that are read, and what is collected over the network.
class ImportsResource < Resource
  # Imports that are listed, the latest first, and pages of one crawl.
  MOST = 100
  MOST_PAGES = 1_000
  MAX_UPLOAD = Orvant::Inventory::Table::MAX_BYTES
  # Larger files are read by the worker, with progress: neither this request nor others wait for them.
  AT_ONCE = 128 * 1024
  # The same of files that unfold to more than they are.
  AT_ONCE_PACKED = 16 * 1024
  # So much of a file is read for a first look at it.
  LOOKED_AT = 1024 * 1024

  post "/api/workspaces/:workspace/imports/preview" do
    beginning = Orvant::Inventory::Beginning.of(uploaded, LOOKED_AT)
    one = beginning ? importing(beginning, source: "") : importing
    kept = ColumnMatching.latest(workspace, import_kind, one.header.to_a)
    preview = after_others { one.preview }
    json(preview.merge(
      "kind" => import_kind,
      "said" => kept ? kept.said : {},
      "notes" => preview["notes"] + told_of(beginning)
    ))
  end

  post "/api/workspaces/:workspace/imports/guess" do
    beginning = Orvant::Inventory::Beginning.of(uploaded, LOOKED_AT)
    json("kind" => Orvant::Inventory::Source.guess(beginning || uploaded, params["filename"].to_s))
  end

  post "/api/workspaces/:workspace/imports" do
    status 201
    beginning = Orvant::Inventory::Beginning.of(uploaded, at_once)
    keep_said(importing(beginning, source: "").header.to_a) if beginning
    next json(import_later.as_document) if beginning || uploaded.bytesize > at_once

    one = importing
    keep_said(one.header.to_a)
    json(after_others { one.call }.as_document)
  end

  post "/api/workspaces/:workspace/imports/fetch" do
    wish = json_body
    kind = wish["kind"]
    known_kind(wish["link_kind"])
    wish["addresses"].to_s.split.each { |text| Orvant::Address.parse(text) }
    Orvant::Address.parse(wish["address"]) if kind == "site"
    hold_key(wish) if kind == "network"
    name = {
      "site" => wish["address"],
      "pages" => wish["addresses"].to_s.split.first,
      "network" => wish["network"]
    }.fetch(kind).to_s
    import = begin_import(
      kind,
      sealed(wish.except("kind")),
      filename: name,
      source: (kind == "pages") ? "" : name
    )
    status 201
    json(import.as_document)
  end

  get "/api/workspaces/:workspace/imports" do
    json("imports" => workspace.imports.order(id: :desc).limit(MOST).map(&:as_document),
      "followed" => workspace.followed_logs.order(:path).map(&:as_document),
      "networks" => workspace.networks.map { |one| one["network"] },
      "dialects" => convention.dialects.map(&:network),
      "own_hosts" => convention.own_hosts.names,
      "relay_hosts" => convention.relay_hosts.names)
  end

  get "/api/workspaces/:workspace/imports/:id" do
    json(one_import.as_document)
  end

  post "/api/workspaces/:workspace/imports/:id/stop" do
    one_import.stop
    json(one_import.reload.as_document)
  end

  get "/api/workspaces/:workspace/imports/:id/rejected.csv" do
    csv(
      "rejected.csv",
      %w[line reason cells],
      one_import.rejected.map { |row| [row["line"], row["reason"], *row["cells"]] }
    )
  end

  get "/api/workspaces/:workspace/imports/:id/pages" do
    json("pages" => one_import.site_pages.order(:id).limit(MOST_PAGES).map(&:document))
  end

  delete "/api/workspaces/:workspace/imports/:id" do
    ImportRemoval.new(one_import).call
    status 204
  end

  private

  def import_kind = params["kind"]

  def at_once = uploaded.b.start_with?(Orvant::Inventory::Archive::SIGN) ? AT_ONCE_PACKED : AT_ONCE

  def uploaded
    raise Problem.new(:too_large) if request.content_length.to_i > MAX_UPLOAD

    @uploaded ||= request.body.read(MAX_UPLOAD + 1).to_s
  end

  # What the person said beside the file.
  def import_options
    said = %w[network host place owner link_kind dates].to_h { |name| [name, params[name].to_s[0, Orvant::Cut::LINE]] }
      .reject { |_, value| value.empty? }
    known_kind(said["link_kind"])
    params["matching"].to_s.empty? ? said : said.merge("matching" => matching)
  end

  def known_kind(kind)
    return if kind.nil? || Orvant::Inventory::Sighting::KINDS.include?(kind)

    raise Problem.new(
      :unusable_input,
      "The kind of link is one of: #{Orvant::Inventory::Sighting::KINDS.join(", ")}."
    )
  end

  def matching
    parsed = JSON.parse(params["matching"])
    return parsed.transform_values(&:to_s) if parsed.is_a?(Hash)

    raise JSON::ParserError
  rescue JSON::ParserError
    raise Problem.new(:unusable_input, "The matching of columns is no JSON object of field and column.")
  end

  def importing(bytes = uploaded, source: params["source"].to_s)
    Importing.of(import_kind).new(
      workspace,
      bytes,
      filename: params.fetch("filename", "upload.csv"),
      kind: import_kind,
      source: source,
      options: import_options
    )
  end

  # Of a part nothing can be said to be gone, so that a part is compared with nothing.
  def told_of(beginning)
    return [] unless beginning

    [
      "The file is large: this is the beginning of its #{(uploaded.bytesize / 1_048_576.0).ceil} MB, compared with nothing. All of it is read, with progress, once you keep it.",
      *((import_kind == "traffic") ? importing(beginning).coming_again(uploaded) : [])
    ]
  end

  # What a person has said of a file is kept by the name of the source, or of the file.
  def keep_said(header)
    said = {"source" => params["source"].to_s[0, Orvant::Cut::LINE]}.merge(import_options.except("matching"))
      .reject { |_, value| value.empty? }
    return if header.empty? || (said.empty? && !import_options["matching"])

    kept = workspace.column_matchings.find_or_initialize_by(
      kind: import_kind,
      name: said.fetch("source") { params["filename"].to_s[0, Orvant::Cut::LINE] }
    )
    kept.update!(header: header, said: said, matching: import_options["matching"] || kept.matching || {})
  end

  # It is stored and queued together, or not at all.
  def begin_import(kind, options, filename: "", source: "")
    Import.transaction do
      import = Import.create!(
        workspace: workspace,
        kind: kind,
        filename: filename[0, Orvant::Cut::LINE],
        source: source[0, Orvant::Cut::LINE],
        options: options,
        state: "waiting",
        rejected: [],
        notes: []
      )
      yield import if block_given?
      import.queue
      import
    end
  end

  def import_later
    begin_import(
      import_kind,
      import_options,
      filename: params.fetch("filename", "upload"),
      source: params["source"].to_s
    ) do |import|
      File.binwrite(ImportJob.file(import.id), uploaded)
    end
  end

  # Said at once, not only by the worker.
  def hold_key(wish)
    NetworkKey.hold_typed(wish["key"])
    kept = workspace.networks.find { |one| one["network"] == wish["network"] }
    NetworkKey.for(kept, wish["address"], wish["key"]) if wish["address"].present?
  end

  def sealed(wish) = wish["key"].is_a?(String) ? wish.merge("key" => Secret.seal(wish["key"])) : wish

  def one_import = workspace.imports.find(params["id"])
end
