# frozen_string_literal: true

# What an import does in another process while sums are being made in this one; to sum its own rows it would
# wait until that is over.
module ReadElsewhere
  # @return [Import] that is under way
  def read_elsewhere(workspace, text, source)
    facts = {filename: "#{source}.csv", source: source}
    begun = Import.create!(workspace: workspace, kind: "traffic", state: "running", rejected: [], notes: [], **facts)
    TrafficImporting.new(workspace, text, import: begun, **facts).send(:read_all)
    begun
  end
end
