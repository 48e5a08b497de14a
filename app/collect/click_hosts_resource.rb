# frozen_string_literal: true

# Hosts in click addresses of ads: whether they charge for a click is asked once, and said by a person.
class ClickHostsResource < Resource
  get "/api/workspaces/:workspace/click-hosts" do
    json("may_charge" => ClickHost.documents(workspace))
  end

  post "/api/workspaces/:workspace/click-hosts" do
    wish = json_body
    host = Orvant::Address::HostName.normal(line(wish["host"]))
    unless Orvant::Inventory::ClickHosts::NAME.match?(host)
      raise Problem.new(:unusable_input, "“#{host[0, Orvant::Cut::QUOTE]}” is no name of a host.")
    end

    version = ClickHost.decide(workspace, host, wish["charges"], author: author(wish))
    status 201
    json("may_charge" => ClickHost.documents(workspace), "version" => version.version)
  end
end
