# frozen_string_literal: true

module Orvant
  module Checks
    module Traffic
      # Finds rows that came from where people read their mail, and pass for visits from a partner's site.
      class MailReferral < HostReferral
        describes "traffic/mail-referral", weight: "breaks",
          why: "A message without parameters that is read in a browser looks like a partner's site: the message earns nothing.",
          fails: {"referrer" => "mail.harbourpost.example"}, passes: {
            "source" => "island-letter",
            "medium" => "email",
            "referrer" => "mail.harbourpost.example"
          }

        private

        def hosts = subject.convention.mail_hosts

        def kind = "message"

        def usual = "email"

        def cause = "mail host as referrer"

        def message(host)
          "The visit came from #{host}, where people read their mail: a message brought it, and no site."
        end
      end
    end
  end
end
