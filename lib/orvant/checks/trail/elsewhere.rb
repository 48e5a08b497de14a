# frozen_string_literal: true

module Orvant
  module Checks
    module Trail
      # Finds ways that end with a stranger: at a host that is neither the advertiser's, nor one that the
      # rules name, nor the one that the link or its place says; or at a page of one's own that shows a
      # stranger's in a frame.
      class Elsewhere < Check
        describes "trail/elsewhere", weight: "breaks",
          why: "Whoever ends with a stranger, at a parked name or in a foreign shop is lost, with all that the click has cost.",
          fails: %w[http://skl.example/go http://www.parked.example/ 200],
          passes: %w[http://skl.example/go http://www.skerryline.example/ 200]

        def findings
          return [] unless subject.trail.landed?

          last = subject.addresses.last
          return framed(last) if subject.ours?(last)
          return [] if subject.listed?(last.host) || declared_otherwise?(last.host)
          return unknown_landing(last) unless subject.own?
          return [] if subject.meant?(last.host)

          [report(last, "The way ends at #{last.host}, which stands in no list of the rules and is not where the link says that it leads: its visitors never arrive.", last.host)]
        end

        private

        # That an ad declares another site is a finding of its own (HostDiffers).
        def declared_otherwise?(host)
          subject.sightings.any? { |one|
            one.declared && subject.site(one.declared.host) != subject.site(host)
          }
        end

        # What is paid for leads to somebody of whom the rules say nothing.
        def unknown_landing(last)
          return [] unless subject.sightings.any? { |one| one.kind == "ad" }

          [finding("The ad lands on #{last.host}, which stands in no list of the rules: cannot tell whether its visitors are yours, look.",
            weight: "untidy",
            place: {"hop" => subject.trail.hops.size, "server" => last.host, "stranger" => last.host},
            evidence: subject.lines,
            root: "trail/elsewhere ad #{last.host}",
            remedy: Remedy.new(
              action: "If #{last.host} is meant, list it as a known host, or as one of your own; else change the landing address.",
              at: "sighting"
            ))]
        end

        def framed(last)
          hosts = subject.trail.landing.to_h["frames"].to_a.reject { |host| subject.listed?(host) }
          return [] if hosts.empty?

          [report(last, "#{last.page} shows nothing but a page of #{hosts.first} in a frame, which stands in no list of the rules: what its visitors do there is a stranger's.", hosts.first)]
        end

        def report(last, message, stranger)
          ours = subject.last_of_ours || last
          finding(message,
            place: {"hop" => subject.trail.hops.size, "server" => last.host, "stranger" => stranger},
            evidence: subject.lines,
            root: "trail/elsewhere #{ours.page} > #{stranger}",
            remedy: Remedy.new(
              action: "Let #{ours.page} lead to a page of yours again; if #{stranger} is meant, list it as a known host.",
              at: "server",
              place: ours.page
            ))
        end
      end
    end
  end
end
