# frozen_string_literal: true

module Orvant
  module Checks
    module Trail
      # Finds hops that lead from https back to http.
      class Downgrade < Check
        describes "trail/downgrade", weight: "skews",
          why: "On the way from https to http browsers drop the referrer and secure cookies, so visits lose their source.",
          fails: %w[https://www.skerryline.example/a http://www.skerryline.example/b 200],
          passes: %w[http://www.skerryline.example/a https://www.skerryline.example/b 200]

        def findings
          subject.addresses.each_cons(2).with_index(1).filter_map do |(from, to), number|
            if from.scheme == "https" && to.scheme == "http" && (subject.ours?(from) || subject.ours?(to))
              report(from, to, number)
            end
          end
        end

        private

        def report(from, to, number)
          finding("Hop #{number}, at #{from.host}, leads from https to http: the referrer and secure cookies are lost there.",
            place: {"hop" => number, "server" => from.host},
            evidence: subject.lines,
            root: "trail/downgrade #{from.page}",
            remedy: Remedy.new(
              action: "Let #{from.page} lead on by https, once #{to.host} answers there.",
              at: "server",
              place: from.page
            ))
        end
      end
    end
  end
end
