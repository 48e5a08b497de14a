# frozen_string_literal: true

# A friendly path that leads to a full link, with all targets it ever had.
class Signpost < ActiveRecord::Base
  belongs_to :workspace
  belongs_to :link, optional: true
  has_many :targets, class_name: "SignpostTarget"
  has_many :passes, class_name: "SignpostPass"

  scope :standing, -> { where(taken_down_at: nil, workspace_id: Workspace.shown.select(:id)) }

  before_validation { self.normal_path = Orvant::Signpost.normal(path.to_s) }
  validate :usable
  after_commit { self.class.publish }

  # Hands all signposts to the redirect server.
  def self.publish
    Orvant::Signpost::Board.write(Settings.var("signposts", "board.json"), standing.map(&:core))
  end

  # @return [Orvant::Signpost]
  def core
    Orvant::Signpost.new(id: id, host: host, path: path, target: target, pass_on: pass_on, ends: ends)
  end

  # @return [String] what stands in print
  def address = "http://#{host}#{path}"

  # @return [Hash{String => Integer}]
  def counts
    people = passes.where(bot: false)
    {
      "passes" => people.sum(:times),
      "first" => people.where(repeat: false).sum(:times),
      "bots" => passes.where(bot: true).sum(:times)
    }
  end

  # @return [Hash{String => Object}]
  def as_document
    {"id" => id,
     "host" => host,
     "path" => path,
     "address" => address,
     "target" => target,
     "caption" => caption,
     "pass_on" => pass_on,
     "ends" => ends&.iso8601,
     "link_id" => link_id,
     "ended" => core.ended?(Date.current), "counts" => counts, "created_at" => created_at.iso8601}
  end

  private

  def usable
    unless Orvant::Signpost::PATH.match?(path.to_s)
      errors.add(:path, "begins with / and holds letters, digits, - and _ only")
    end
    unless hosts.include?(host)
      errors.add(:host, "“#{host}” is no host of the workspace; it has: #{hosts.first(5).join(", ")}")
    end
    errors.add(:pass_on, "is keep or none") unless Orvant::Signpost::PASSING_ON.include?(pass_on)
    Orvant::Address.parse(target.to_s)
    if target.to_s.start_with?(address) && Orvant::Address.new(target).path == path
      errors.add(:target, "leads to the signpost itself")
    end
  rescue Orvant::Error::UnusableAddress => error
    errors.add(:target, error.message)
  end

  # Short links stand on hosts that pass visitors on, or on own ones.
  def hosts
    workspace.convention.then do |rules|
      (rules.relay_hosts.names + rules.own_hosts.names).reject { |name| name.start_with?("*") }
    end
  end
end
