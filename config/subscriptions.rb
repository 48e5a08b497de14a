# frozen_string_literal: true

require "active_support/notifications"

# What later rooms do when an earlier one tells of something (Workspace#tell).
module Subscriptions
  def self.to(event, &work)
    ActiveSupport::Notifications.subscribe(event) { |told| work.call(**told.payload) }
  end

  # What findings, fixes and traffic follow from: links, what may stand, what is rehearsed.
  to("workspace.changed") { |workspace:| Explaining.later(workspace) }

  # A version of the rules was saved; earlier: the one before it, nil for the first.
  to("rules.saved") do |workspace:, version:, earlier:|
    AdRereading.later(workspace) if earlier && version.reads_ads_otherwise?(earlier)
    Explaining.later(workspace)
  end

  # A person has opened the rules, and may change them next.
  to("rules.opened") { |workspace:| PreviewDesk.warm(workspace) unless PreparedFile.large?(workspace, "effect") }

  # What an import has brought is about to go with it, and has gone.
  to("import.removing") { |workspace:, import:| TrafficRemoval.new(workspace, import).call }
  to("import.removed") do |workspace:|
    Combination.renew(workspace)
    Explaining.later(workspace)
  end

  # A sweep has followed its links and looked at their ways, and has come to its end.
  to("sweep.followed") { |sweep:, **| BrowserPhase.new(sweep).call }
  to("sweep.done") { |workspace:| Explaining.new(workspace).call }
end

PreparedFile::DOCUMENTS.merge!(
  "learning" => ->(workspace, _) { {"proposals" => LearningDesk.new(workspace).proposals.map(&:to_h)} },
  "effect" => ->(workspace, asked) { PreviewDesk.answer(workspace, asked["document"]) },
  "claims" => ->(workspace, asked) { TrafficClaims.new(workspace, TrafficPeriod.of(asked)).document }
)
PreparedFile::FILES["bundle"] = ->(workspace, path) { BundleWriter.new(workspace).write(path) }

# What reads a kind of file; the others hold links.
Importing::KINDS.merge!(
  "traffic" => "TrafficImporting",
  "logs" => "LogImporting",
  **%w[claims orders touches].to_h { |kind| [kind, "BesideImporting"] }
)
