# frozen_string_literal: true

# What was done, and by whom.
class HistoryResource < Resource
  COLUMNS = %w[at by what undone].freeze

  get "/api/workspaces/:workspace/history" do
    json("deeds" => History.new(workspace).deeds.map(&:as_document))
  end

  get "/api/workspaces/:workspace/history.csv" do
    csv(
      "history.csv",
      COLUMNS,
      History.new(workspace).deeds.map { |deed| deed.as_document.values_at(*COLUMNS) }
    )
  end
end
