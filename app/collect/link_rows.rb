# frozen_string_literal: true

# For resources that show links: what stands of each in a list.
module LinkRows
  private

  def link_rows(links)
    ids = links.map(&:id)
    heaviest, samples = workspace.findings.heaviest(ids), Sighting.samples_of(ids)
    links.map { |link| link_row(link, heaviest[link.id], samples.fetch(link.id, {})) }
  end

  # @param samples [Hash] of Orvant::Inventory::Samples
  def link_row(
    link, heaviest = workspace.findings.heaviest([link.id])[link.id],
    samples = Sighting.samples_of([link.id]).fetch(link.id, {})
  )
    {"id" => link.id, "address" => link.address, "parts" => marked(link.address, samples),
     "kind" => link.kind,
     "place" => link.place, "owner" => link.owner, "spend" => link.spend,
     "outcome" => link.outcome,
     "look" => link.look,
     "weight" => link.weight_name,
     "findings" => link.findings_count,
     "heaviest" => heaviest.to_s,
     "status" => link.status,
     "excluded" => !link.excluded_at.nil?,
     "labels" => link.labels.map(&:label).sort,
     "swept_at" => link.swept_at&.iso8601}
  end

  # An address in its parts, examples marked with the tokens in whose place they stand.
  def marked(address, samples)
    parts = anatomy(address)
    return parts if samples.empty?

    names = parts.select { |one| one["part"] == "name" }.to_h { |one| [one["pair"], one["text"]] }
    Orvant::Export::Masking::Masked.new(parts.map { |one|
      sample = samples[Orvant::Address::Pair.decode(names[one["pair"]].to_s)] if one["part"] == "value"
      (sample && sample["filled"] == one["text"]) ? one.merge("sample" => sample["written"]) : one
    })
  end
end
