# frozen_string_literal: true

require "rqrcode"

# Signposts, their codes, and who passed.
class SignpostsResource < Resource
  # Passes that one export holds.
  MOST_PASSES = 500_000
  QR_SIZE = 600

  get "/api/workspaces/:workspace/signposts" do
    PassReader.new.call
    posts = workspace.signposts.standing.order(:host, :path)
    typed_json(
      "signposts" => posts.map(&:as_document),
      "server" => Settings["ORVANT_SIGNPOSTS"],
      "hosts" => (convention.relay_hosts.names + convention.own_hosts.names).reject { |name|
        name.start_with?("*")
      }
    )
  end

  post "/api/workspaces/:workspace/signposts" do
    wish = json_body
    facts = {
      "host" => convention.relay_hosts.names.first.to_s,
      "pass_on" => "keep"
    }.merge(signpost_facts(wish))
    facts["path"] = Orvant::Signpost.code if facts["path"].to_s.empty?
    made = keep_signpost(workspace.signposts.new, facts, wish)
    status 201
    typed_json(signpost_detail(made))
  end

  get "/api/workspaces/:workspace/signposts/passes.csv" do
    PassReader.new.call
    passes = SignpostPass.joins(:signpost).where(signposts: {workspace_id: workspace.id})
    rows = passes.order(:at).limit(MOST_PASSES).includes(:signpost).lazy.map do |pass|
      [
        pass.signpost.address,
        pass.at.iso8601,
        pass.referrer,
        pass.device,
        pass.bot ? "yes" : "no",
        pass.repeat ? "yes" : "no",
        pass.times
      ]
    end
    csv("passes.csv", %w[signpost at referrer device bot repeat passes], rows)
  end

  get "/api/workspaces/:workspace/signposts/:id" do
    PassReader.new.call
    typed_json(signpost_detail(signpost))
  end

  put "/api/workspaces/:workspace/signposts/:id" do
    wish = json_body
    typed_json(signpost_detail(keep_signpost(signpost, signpost_facts(wish).except("host", "path"), wish)))
  end

  post "/api/workspaces/:workspace/signposts/:id/take-down" do
    signpost.update!(taken_down_at: Time.now.utc, taken_down_by: who.name)
    SignpostInventory.new(workspace).refresh
    typed_json(signpost.as_document)
  end

  post "/api/workspaces/:workspace/signposts/:id/put-up" do
    signpost.update!(taken_down_at: nil)
    SignpostInventory.new(workspace).refresh
    typed_json(signpost.as_document)
  end

  get "/api/workspaces/:workspace/signposts/:id/qr.svg" do
    content_type "image/svg+xml"
    qr.as_svg(
      module_size: 8,
      offset: 32,
      use_path: true,
      viewbox: true,
      fill: "ffffff",
      color: "000000",
      standalone: true
    )
  end

  get "/api/workspaces/:workspace/signposts/:id/qr.png" do
    content_type "image/png"
    attachment "#{signpost.path.delete_prefix("/").tr("/", "-")}.png" if params["download"]
    qr.as_png(size: QR_SIZE, border_modules: 4).to_s
  end

  private

  def signpost = @signpost ||= workspace.signposts.find(params["id"])

  def signpost_facts(wish)
    facts = wish.slice("host", "path", "target", "caption", "pass_on")
      .transform_values { |text| line(text, Orvant::Cut::LANDING) }
    facts["ends"] = wish["ends"].to_s.empty? ? nil : date(wish["ends"], "The end") if wish.key?("ends")
    facts
  end

  # A signpost to a link of the inventory counts for that link.
  def link_of(target)
    form = Orvant::Address.parse(target).normal_form
    workspace.links.find_by(normal_form: form)
  rescue Orvant::Error::UnusableAddress
    nil
  end

  def keep_signpost(one, facts, wish)
    moved = facts.key?("target") && facts["target"] != one.target
    one.assign_attributes(facts)
    hold_back(one, wish) if moved && one.valid?
    one.link = link_of(one.target) if moved
    unless one.save
      raise Problem.new(
        :unusable_input,
        one.errors.map { |error| "#{error.attribute.to_s.capitalize}: #{error.message}." }.join(" ")
      )
    end

    if moved
      one.targets.create!(
        target: one.target,
        author: author(wish),
        note: [wish["note"], wish["why"]].map { |text| line(text, Orvant::Cut::CELL) }.reject(&:empty?).join("; ")
      )
    end
    SignpostInventory.new(workspace).refresh
    one
  rescue ActiveRecord::RecordNotUnique
    raise Problem.new(:unusable_input, "There is a signpost #{one.host}#{one.path} already.")
  end

  # What the rules reject, or what does not land, is not put up unless it is said why.
  def hold_back(one, wish)
    return unless line(wish["why"], Orvant::Cut::CELL).empty?

    objections = SignpostJudge.new(workspace, one.target).objections
    if objections.any?
      raise Problem.new(
        :rejected_target,
        "#{objections.join(" ")} Change the target, or say why it is put up nevertheless.",
        more: {"objections" => objections}
      )
    end
  end

  def signpost_detail(one)
    targets = one.targets.order(id: :desc).map(&:as_document)
    one.as_document.merge("targets" => targets, **SignpostPasses.new(one).document)
  end

  def qr = RQRCode::QRCode.new(signpost.address, level: :m)
end
