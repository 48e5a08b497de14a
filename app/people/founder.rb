# frozen_string_literal: true

# The first account: owner of every workspace that is there.
module Founder
  # @param name [String]
  # @param mail [String] as typed
  # @param password [String]
  # @return [Person]
  # @raise [Orvant::Error] where there is an account already, or something cannot be used
  def self.make(name:, mail:, password:)
    Person.transaction do
      if Person.exists?
        raise Orvant::Error, "Orvant has its first owner already: sign in, or ask for an invitation."
      end

      Person.new(mail: Person.mail(mail), founder: true).tap do |person|
        person.take_name(name)
        person.take_password(password, Workspace.shown)
        person.save!
        Workspace.shown.find_each do |workspace|
          Membership.create!(person: person, workspace: workspace, role: "owner")
        end
      end
    end
  end
end
