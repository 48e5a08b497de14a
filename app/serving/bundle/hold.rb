# frozen_string_literal: true

require "json_schemer"
require "yaml"

module Bundle
  # Holds rows of a bundle against what Orvant itself would have written: what screens and judgements go by
  # must be there, as they know it.
  class Hold
    # What may stand in a column that they go by.
    KNOWN = {
      [Link, "kind"] => Orvant::Inventory::Sighting::KINDS,
      [Sighting, "kind"] => Orvant::Inventory::Sighting::KINDS,
      [Fix, "state"] => Fix::STATES,
      [Fix, "weight"] => Orvant::Finding::WEIGHTS,
      [Finding, "weight"] => Orvant::Finding::WEIGHTS,
      [Sender, "decision"] => Sender::DECISIONS,
      [Signpost, "pass_on"] => Orvant::Signpost::PASSING_ON,
      [ProposedValue, "state"] => ProposedValue::STATES,
      [Sweep, "state"] => %w[done stopped failed],
      [Import, "state"] => %w[done stopped failed]
    }.freeze
    # The longest text that stands in a column of its own.
    MOST_TEXT = 100_000
    SHAPES = YAML.safe_load_file(File.expand_path("shapes.yaml", __dir__)).freeze

    # @param workspace [Workspace] that is being made
    # @param remark [#call] takes what could not come along as it was
    def initialize(workspace, remark)
      @workspace = workspace
      @remark = remark
      @schemers = Hash.new do |all, name|
        all[name] = SHAPES[name] && JSONSchemer.schema({"$defs" => SHAPES["$defs"], **SHAPES[name]})
      end
    end

    # @param model [Class]
    # @param facts [Hash{String => Object}] columns of one row; what is worked out of others is added
    # @return [void]
    # @raise [Orvant::Error] naming what cannot be used
    def call(model, facts)
      facts.each { |column, value| hold(model, column, value) }
      name = :"hold_#{model.name.underscore}"
      send(name, facts) if respond_to?(name, true)
    end

    private

    def hold(model, column, value)
      known = KNOWN[[model, column]]
      wrong("#{column} cannot be “#{value.to_s[0, Orvant::Cut::WORD]}”") if known && !known.include?(value)
      wrong("#{column} is longer than #{MOST_TEXT} characters") if value.is_a?(String) && value.length > MOST_TEXT
      return unless model.columns_hash.fetch(column).type == :json

      fault = @schemers["#{model.name}.#{column}"]&.validate(value)&.first
      wrong("#{column}#{fault["data_pointer"][0, Orvant::Cut::QUOTE]} is not as Orvant writes it") if fault
    end

    def hold_convention_version(facts) = Orvant::Convention.read(facts["document"])

    def hold_rehearsal_script(facts) = Orvant::Rehearsal.read(facts["document"])

    def hold_link(facts)
      address = Orvant::Address.parse(facts["address"].to_s)
      facts.merge!("normal_form" => address.normal_form, "host" => address.host)
    end

    def hold_link_trail(facts) = LinkTrail.new(facts).trail("http://trail.test/")

    def hold_page_visit(facts) = Orvant::Browser::PageVisit.from_h(facts["visit"])

    def hold_rehearsal_run(facts) = Orvant::Rehearsal::Run.from_h(facts["run"]).score

    def hold_question(facts)
      settings = facts["settings"]
      Orvant::Watching.read({"expected_tags" => settings["expected_tags"], **settings["watching"]})
      facts["digest"] = Question.digest(settings)
    end

    # A path leads to one place in one Orvant.
    def hold_signpost(facts)
      Orvant::Address.parse(facts["target"].to_s)
      unless Orvant::Signpost::PATH.match?(facts["path"].to_s)
        wrong("“#{facts["path"].to_s[0, Orvant::Cut::QUOTE]}” is no path of a signpost")
      end
      facts["normal_path"] = Orvant::Signpost.normal(facts["path"])
      return unless Signpost.exists?(host: facts["host"], normal_path: facts["normal_path"])

      @remark.call("The signpost #{facts["host"]}#{facts["path"]} is taken in another workspace; it came along taken down, under another path.")
      facts["path"] += "-#{SecureRandom.hex(3)}"
      facts["taken_down_at"] = Time.now.utc
      facts["normal_path"] = Orvant::Signpost.normal(facts["path"])
    end

    def wrong(what) = raise(Orvant::Error, "#{what}.")
  end
end
