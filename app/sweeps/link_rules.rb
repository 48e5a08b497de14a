# frozen_string_literal: true

# Says which rules hold for one link, and why.
class LinkRules
  # @param link [Link]
  # @param convention [Orvant::Convention]
  def initialize(link, convention)
    @link = link
    @convention = convention
  end

  # @return [Hash{String => Object}] whether the link is judged and why not, its scope, and for each role its
  #   rules, the winning one last
  def document
    address = Orvant::Address.new(@link.address)
    subject = Orvant::Checks::Param::LinkSubject.new(
      address,
      @convention,
      kind: @link.kind,
      sightings: LinkEntries.sightings(@link)
    )
    book = subject.rules
    {"judged" => @convention.applies_to?(address, kind: @link.kind),
     "why" => why(address),
     "scope" => {
       "kind" => @link.kind,
       "account" => subject.whereabouts.said_of("account"),
       "network" => subject.whereabouts.network,
       "host" => address.host
     }.compact,
     "roles" => book.explain.map { |one| one.merge("sentences" => Orvant::Convention::InWords.new(book.role(one["role"])).sentences) }}
  end

  private

  def why(address)
    return "Links of the kind #{@link.kind} are exempt." if @convention.exempt_kinds.include?(@link.kind)
    if @convention.relay_hosts.cover?(address.host)
      return "#{address.host} passes visitors on: the link is judged where its trail first reaches a host of your own."
    end

    if @convention.applies_to?(address, kind: @link.kind)
      "#{address.host} is a host of your own."
    else
      "#{address.host} is no host of your own."
    end
  end
end
