# frozen_string_literal: true

# For proxies and those who watch: whether the web server, the database and a worker are there.
class HealthResource < Resource
  get "/health" do
    content_type :json
    age = Heartbeat.age
    status((age && age <= Heartbeat::DEAD) ? 200 : 503)
    JSON.generate("web" => "there", "database" => "there", "worker_seconds_ago" => age)
  rescue ActiveRecord::ActiveRecordError
    status 503
    JSON.generate("web" => "there", "database" => "cannot be reached", "worker_seconds_ago" => nil)
  end
end
