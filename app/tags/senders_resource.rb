# frozen_string_literal: true

# Hosts to which pages wanted to send something.
class SendersResource < Resource
  SENDER_COLUMNS = %w[host decision tag times ways pages example seen_at decided_by].freeze

  get "/api/workspaces/:workspace/senders" do
    order = {"" => 0, "held" => 1, "through" => 2, "tag" => 3}
    json(
      "senders" => workspace.senders.sort_by { |one| [order.fetch(one.decision), -one.times, one.host] }.map(&:as_document),
      "tags" => tag_names
    )
  end

  get "/api/workspaces/:workspace/senders.csv" do
    documents = workspace.senders.order(:host).map(&:as_document)
    csv(
      "senders.csv",
      SENDER_COLUMNS,
      documents.map { |one|
        one.merge("ways" => one["ways"].join("; "), "pages" => one["pages"].join("; "))
        .values_at(*SENDER_COLUMNS)
      }
    )
  end

  post "/api/workspaces/:workspace/signatures/read" do
    wish = json_body
    typed_json(SignatureTrial.new(wish["signature"], wish["requests"]).call)
  end

  post "/api/workspaces/:workspace/senders/:id" do
    wish = json_body
    decision = wish["decision"].to_s
    unless Sender::DECISIONS.include?(decision)
      raise Problem.new(
        :unusable_input,
        "A decision is one of: #{Sender::DECISIONS.drop(1).join(", ")}, or nothing to take it back."
      )
    end

    sender = workspace.senders.find(params["id"])
    sender.decide(decision, tag: line(wish["tag"]), author: author(wish))
    json(sender.as_document)
  end
end
