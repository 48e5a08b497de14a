# frozen_string_literal: true

class World
  # Tidepost's interface for live ads: pages of JSON, a key, and a limit of requests that the second page of
  # every reading meets once.
  class NetworkApi
    PER_PAGE = 4

    # @param ads [Hash{String => String}] by the path it is asked under, the JSON file with the ads of that
    #   day
    def initialize(ads)
      @ads = ads.transform_values { |file| JSON.parse(File.read(file)) }
      @asked = Hash.new(0)
    end

    def call(request)
      key = request.get_header("HTTP_AUTHORIZATION").to_s.delete_prefix("Bearer ")
      return answer(401, "problem" => "the key expired on 31 October 2026") if key == "last-years-key"
      return answer(401, "problem" => "unknown key") unless key == "harbour-key"

      ads = @ads[request.path] or return answer(404, "problem" => "no such list")
      number = [request.params["page"].to_i, 1].max
      return busy if number == 2 && (@asked[number] += 1).odd?

      page(ads, request.path, number)
    end

    private

    def page(ads, path, number)
      following = "#{path}?page=#{number + 1}" if ads.size > number * PER_PAGE
      answer(200, "ads" => ads[(number - 1) * PER_PAGE, PER_PAGE].to_a, "next" => following)
    end

    def busy = answer(429, "problem" => "slow down").tap { |response| response[1]["retry-after"] = "1" }

    def answer(status, document) = [status, {"content-type" => "application/json"}, [JSON.generate(document)]]
  end
end
