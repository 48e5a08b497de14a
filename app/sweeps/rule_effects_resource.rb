# frozen_string_literal: true

# What rules would do to the links and the traffic at hand, and what these teach of rules.
class RuleEffectsResource < Resource
  # Faults are an answer here, not an error: a person is still writing.
  post "/api/workspaces/:workspace/convention/preview" do
    answer("effect", "document" => draft)
  end

  # As above: faults are an answer.
  post "/api/workspaces/:workspace/convention/try" do
    wish = json_body
    typed_json(RulesTrial.new(workspace, Orvant::Convention.read(wish["document"]))
      .document(visit: wish["visit"], network: wish["network"], pattern: wish["pattern"]))
  rescue Orvant::Error => error
    typed_json(
      "faults" => error.message.lines.map(&:strip),
      "caught" => [],
      "unassigned" => 0,
      "sessions" => 0,
      "visit" => nil,
      "click" => nil
    )
  end

  post "/api/workspaces/:workspace/convention/learn" do
    answer("learning")
  end

  private

  def draft
    document = json_body["document"]
    raise Problem.new(:unusable_input, "Send the convention as “document”.") unless document.is_a?(Hash)

    document
  end
end
