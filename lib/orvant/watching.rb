# frozen_string_literal: true

module Orvant
  # What pages must do: tags expected where and with which accounts, goal pages with their events, variants of
  # a page, consent, and the events that the analytics tool counts (docs/schemas/watching.schema.json).
  class Watching
    # A tag that a page must have. accounts: those permitted; empty where any is.
    Expected = Struct.new(:tag, :accounts, keyword_init: true)
    # A page that belongs to a conversion. events: Array of tag and event.
    Goal = Struct.new(:page, :events, keyword_init: true) do
      # @return [String] what its conversions are called
      def name = events.first&.last || page
    end
    # A step on the way to a goal. name: as people call it · page: host and path, or a path alone.
    Step = Struct.new(:name, :page, keyword_init: true)
    # What a tag may do in a state of consent. untouched, no: whether it may send · yes: whether it must ·
    # unless: values of its consent field with which it may always.
    Consent = Struct.new(:tag, :untouched, :yes, :no, :unless, keyword_init: true)

    # @return [Array<Goal>]
    attr_reader :goals
    # @return [Array<Step>] in their order
    attr_reader :steps
    # @return [Array<Array<String>>] lists of pages that are one page in several designs
    attr_reader :variants
    # @return [Hash{String => Consent}] by tag
    attr_reader :consents

    # @param source [String, Hash] the document
    # @return [Watching]
    # @raise [Error::UnusableDocument]
    def self.read(source) = new(Document.read(source, schema: :watching))

    # @param document [Hash] valid by the schema
    def initialize(document = {})
      @document = document
      @goals = document.fetch("goals", []).map do |one|
        Goal.new(page: one["page"], events: one["events"].map { |event| event.values_at("tag", "event") })
      end
      @steps = document.fetch("steps", []).map { |one| Step.new(name: one["name"], page: one["page"]) }
      @variants = document.fetch("variants", [])
      @counted = document["counted_events"]&.map { |one| one.values_at("tag", "event") }
      @consents = document.dig("consent", "tags").to_a
        .to_h { |one|
          [
            one["tag"],
            Consent.new(
              tag: one["tag"],
              untouched: one.fetch("untouched", false),
              yes: one.fetch("yes", true),
              no: one.fetch("no", false),
              unless: one.fetch("unless", [])
            )
          ]
        }
    end

    # @param page [String] host and path
    # @return [Array<Expected>]
    def expected(page)
      @document.fetch("expected_tags", []).select { |one|
        one["pages"].to_a.empty? ||
          one["pages"].any? { |wanted| self.class.on?(wanted, page) }
      }
        .map { |one| Expected.new(tag: one["tag"], accounts: [one["account"], *one["accounts"]].compact) }
    end

    # @param page [String] host and path
    # @return [Array<Goal>] those that it is
    def goals_of(page) = goals.select { |goal| self.class.on?(goal.page, page) }

    # @param page [String] host and path
    # @return [Integer] the number of the last step that it is, from 1; 0 where it is none
    def step_of(page) = (steps.rindex { |step| self.class.on?(step.page, page) } || -1) + 1

    # @return [Array<String>] collection hosts of one's own
    def collection_points = @document.fetch("collection_points", [])

    # @return [Boolean] whether it is known which events are counted
    def counts? = !@counted.nil?

    # @param tag [String]
    # @param event [String]
    # @return [Boolean] whether the analytics tool counts it as a conversion
    def counted?(tag, event) = @counted.to_a.include?([tag, event])

    # @return [Array<Array(String, String)>] tag and event of each that is counted
    def counted = @counted.to_a

    # @param state [String] `yes` or `no`
    # @return [String, Hash, nil] what is clicked for it
    def target(state) = @document.dig("consent", state)

    # @return [Array<String>] states of consent in which pages are visited
    def states = ["untouched", *%w[yes no].select { |state| target(state) }]

    # @param wanted [String] host and path, or a path alone; a star at its end covers all that begins so, one
    #   before it what stands between two slashes
    # @param page [String] host and path
    # @return [Boolean]
    def self.on?(wanted, page)
      page = page[/\A[^?#]*/]
      page = page[%r{/.*\z}] || "/" if wanted.start_with?("/")
      return page == wanted unless wanted.include?("*")

      beginning = wanted.chomp("*")
      return page.start_with?(beginning) unless beginning.include?("*")

      Regexp.new("\\A#{beginning.split("*", -1).map { |part| Regexp.escape(part) }.join("[^/]*")}#{"\\z" if beginning == wanted}").match?(page)
    end
  end
end
