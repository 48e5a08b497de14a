# frozen_string_literal: true

# Makes a link that lets somebody in once, and sends it where a mail server is set.
module Welcome
  class << self
    # @param workspace [Workspace]
    # @param mail [String] as typed
    # @param role [String] one of Role::NAMES
    # @param base [String] under which Orvant is called
    # @param by [Person, nil] who invites
    # @return [Hash{String => Object}] the invitation, with its link and whether it was sent
    # @raise [Orvant::Error]
    def member(workspace, mail, role, base, by: nil)
      made, token = Invitation.member(workspace, mail: mail, role: role, by: by)
      said(
        made,
        link(base, token),
        "You are invited to “#{workspace.title}”",
        "#{made.author.empty? ? "Somebody" : made.author} invites you to look after “#{workspace.title}” as #{made.role}."
      )
    end

    # @param person [Person]
    # @param base [String]
    # @return [Hash{String => Object}]
    def password(person, base)
      made, token = Invitation.password(person)
      said(made, link(base, token), "A new password", "With this link you take a new password.")
    end

    # @param base [String]
    # @param token [String]
    # @return [String]
    def link(base, token) = "#{base.chomp("/")}/join/#{token}"

    private

    def said(made, link, subject, text)
      sent = Post.send(
        to: made.mail,
        subject: subject,
        text: "#{text}\n\n#{link}\n\nIt is good once, until #{made.ends_at.strftime("%-d %B %Y, %H:%M")} UTC.\n"
      )
      made.as_document.merge("link" => link, "sent" => sent)
    end
  end
end
