# frozen_string_literal: true

# Lets the finished rows of a build sheet leave: into the inventory, with the sheet as their sighting.
# Rejected rows stay behind unless the person has said why they leave.
class SheetRelease
  # @param sheet [BuildSheet]
  def initialize(sheet)
    @sheet = sheet
    @workspace = sheet.workspace
    @finished = sheet.finished
  end

  # @return [Array<Orvant::Build::Finished>] those that may leave
  def leaving = @leaving ||= @finished.select(&:leaves?)

  # @return [Integer] how many stay behind
  def held = @finished.size - leaving.size

  # @return [Import, nil] nil where nothing may leave
  def call
    return if leaving.empty?

    read = Orvant::Inventory::Collected.new(items: @finished.each.with_index(1).filter_map { |one, number|
      sighting(one, number) if one.leaves?
    })
    LinkImporting.new(
      @workspace,
      read,
      filename: @sheet.name,
      kind: "sheet",
      source: "Build sheet #{@sheet.id}"
    ).call
  end

  # @return [Array<Hash>] for each row that left what became of it: not seen elsewhere yet, seen as built, or
  #   seen otherwise
  def whereabouts
    links = @workspace.links.where(normal_form: leaving.map { |one| one.address.normal_form })
      .index_by(&:normal_form)
    leaving.filter_map do |one|
      (link = links[one.address.normal_form]) &&
        {
          "address" => one.address.raw,
          "link_id" => link.id,
          "outcome" => link.outcome,
          "weight" => link.weight_name,
          **seen(link, one)
        }
    end
  end

  private

  def sighting(finished, number)
    row = finished.row
    facts = {
      "sheet" => @sheet.id.to_s,
      **finished.sighting.facts,
      "exception" => row.exception,
      "channel" => finished.channel
    }.reject do |_, said|
      said.to_s.empty?
    end
    Orvant::Inventory::Sighting.new(address: finished.address,
      kind: row.kind.empty? ? "other" : row.kind,
      place: "#{@sheet.name} · row #{number}",
      owner: "",
      line: number,
      status: "",
      since: Date.current,
      key: "#{@sheet.id} #{number}", declared: Orvant::Address.parse(row.landing), facts: facts)
  end

  # A link with the same source, medium, campaign and content at another address is this one, published
  # otherwise.
  def seen(link, finished)
    if link.sightings.any? { |one| one.ended_by_id.nil? && one.facts.to_h["sheet"].nil? }
      return {"seen" => "as built"}
    end

    other = twin(link, finished)
    other ? {"seen" => "otherwise", "other_id" => other.id, "other" => other.address} : {"seen" => "not yet"}
  end

  def twin(link, finished)
    said = @workspace.convention.values_in(finished.address).slice("source", "campaign", "content")
    return if said.size < 2

    @candidates ||= @workspace.links.swept.left_joins(sightings: :import)
      .where(sightings: {ended_by_id: nil})
      .where("imports.kind IS NULL OR imports.kind <> 'sheet'").distinct.to_a
    @candidates.find do |other|
      other.id != link.id &&
        @workspace.convention.values_in(Orvant::Address.new(other.address))
          .slice("source", "campaign", "content") == said
    end
  end
end
