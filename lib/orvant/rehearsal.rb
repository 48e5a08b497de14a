# frozen_string_literal: true

module Orvant
  # A scripted visit with expectations (docs/schemas/rehearsal.schema.json).
  class Rehearsal
    # One step: number from 1 · does: one of ACTS · target: address or selector, { "link" => id } of the
    # inventory · with · within: the frame of the target, or nil · only: whether nothing else may leave ·
    # holds: Array<Hash>, what fields, cookies and storage must hold after it · expectations:
    # Array<Expectation>.
    Step = Struct.new(
      :number,
      :does,
      :target,
      :with,
      :within,
      :only,
      :holds,
      :expectations,
      keyword_init: true
    ) do
      def to_s
        [
          does.tr("_", " "),
          target.is_a?(Hash) ? "“#{target.values.first}”" : target,
          with&.slice(0, 80)
        ].compact.reject { |part| part == true }.join(" ")
      end
    end
    # A signal that must leave in a step, and how often. page: from which it must leave, or nil · values: what
    # it must say (value, currency, order, items), true for anything at all.
    Expectation = Struct.new(:step, :tag, :event, :times, :page, :values, keyword_init: true) do
      def to_h = members.to_h { |name| [name.to_s, self[name]] }.compact
    end

    ACTS = %w[open click double_click fill date upload choose tick submit wait_for reload back new_tab accept refuse].freeze

    attr_reader :name, :title, :about, :owner, :steps

    # @param source [String, Hash] the document
    # @return [Rehearsal]
    # @raise [Error::UnusableDocument]
    def self.read(source) = new(Document.read(source, schema: :rehearsal))

    # @param document [Hash] valid by the schema
    def initialize(document)
      @name, @title = document.values_at("rehearsal", "title")
      @about = document["about"].to_s
      @owner = document["owner"].to_s
      @steps = document["steps"].map.with_index(1) { |step, number| read_step(step, number) }
    end

    # @return [Array<Expectation>] of all steps
    def expectations = steps.flat_map(&:expectations)

    # @return [String, nil] the address that the first step opens: the landing
    def landing
      steps.find { |step| step.does == "open" }&.target.then { |target| target if target.is_a?(String) }
    end

    # @return [Array<Integer>] ids of the links that it opens
    def links
      steps.filter_map { |step| step.target["link"] if step.does == "open" && step.target.is_a?(Hash) }.uniq
    end

    # @param addresses [Hash{Integer => String}] of links of the inventory
    # @return [Rehearsal] itself, with the addresses in their places
    def with_links(addresses)
      steps.each do |step|
        if step.does == "open" && step.target.is_a?(Hash)
          step.target = addresses.fetch(step.target["link"], step.target)
        end
      end
      self
    end

    private

    def read_step(step, number)
      does = ACTS.find { |act| step.key?(act) }
      expectations = step.fetch("expect",
        []).map { |one|
          Expectation.new(
            step: number,
            tag: one["tag"],
            event: one["event"],
            times: one.fetch("times", 1),
            page: one["page"],
            values: one["values"]
          )
        }
      Step.new(
        number: number,
        does: does,
        target: step[does],
        with: step["with"],
        within: step["within"],
        only: step.fetch("only", false),
        holds: step.fetch("holds", []),
        expectations: expectations
      )
    end
  end
end
