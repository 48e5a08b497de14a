# frozen_string_literal: true

module Orvant
  module Checks
    # The family on one run of a rehearsal.
    module Journey
      class << self
        # @param run [Rehearsal::Run]
        # @return [Array<Finding>] only the step, where one could not be done: what should have come after it
        #   was not tried
        def judge(run)
          checks = run.failed_step ? [Step] : Check.family("journey")
          checks.flat_map { |check| check.new(run).findings }
        end

        # @param example [Hash] `signals` (event, step, values) of a run that expects one `lead` in step 2,
        #   none on reload in step 3 · `expect`: values of it
        # @return [Array<Finding>]
        def sample(example)
          signals = example["signals"].map do |event, step, values|
            Signal.new(tag: "gullwatch", event: event, kind: "conversion",
              values: values || {"source" => "island-letter", "medium" => "email"},
              step: step,
              at: step * 1000,
              page: "http://www.skerryline.example/groups/thanks",
              request: "http://in.gullwatch.example/c?ev=#{event}")
          end
          judge(Rehearsal::Run.new(rehearsal: "example",
            steps: (1..3).map { |number|
              {
                "number" => number,
                "does" => "step",
                "error" => (example["error"] if number == 2)
              }
            },
            signals: signals,
            expectations: [{
              "step" => 2,
              "tag" => "gullwatch",
              "event" => "lead",
              "times" => 1,
              "values" => example["expect"]
            }.compact,
              {"step" => 3, "tag" => "gullwatch", "event" => "lead", "times" => 0}],
            landing: {"source" => "island-letter", "medium" => "email"}, refused: []))
        end
      end
    end
  end
end
