# frozen_string_literal: true

# Lets a pipeline into one workspace. The key itself is shown once.
class ApiKey < ActiveRecord::Base
  MARK = "orvant_"
  SEEN_EVERY = 60

  belongs_to :workspace
  # Whose it is; nobody where Orvant is one person's.
  belongs_to :made_by, class_name: "Person", optional: true

  scope :in_force, -> { where(taken_back_at: nil) }

  class << self
    # @param workspace [Workspace]
    # @param name [String] what it is for
    # @param role [String] one of Role::NAMES
    # @param by [Person, nil]
    # @return [Array(ApiKey, String)] the row, and the key
    # @raise [Orvant::Error]
    def issue(workspace, name:, role:, by: nil)
      unless name.strip.length.between?(1, 100)
        raise Orvant::Error, "Say what the key is for, in at most 100 characters."
      end

      token = MARK + Token.make
      made = create!(
        workspace: workspace,
        name: name.strip,
        role: Role.named(role),
        digest: Token.digest(token),
        made_by: by,
        author: Acting.author
      )
      Deed.note(workspace, "The key “#{made.name}” made, as #{made.role}")
      [made, token]
    end

    # @param token [String]
    # @return [ApiKey, nil]
    def of(token)
      return unless token.start_with?(MARK)

      in_force.find_by(digest: Token.digest(token))&.tap(&:see)
    end
  end

  # Notes that it was used.
  def see = (update_columns(used_at: Time.now.utc) if used_at.nil? || used_at < Time.now.utc - SEEN_EVERY)

  # Lets nobody in any more.
  def take_back
    update!(taken_back_at: Time.now.utc)
    Deed.note(workspace, "The key “#{name}” taken back")
  end

  # @return [Hash{String => Object}]
  def as_document
    {
      "id" => id,
      "name" => name,
      "role" => role,
      "author" => author,
      "created_at" => created_at.iso8601,
      "used_at" => used_at&.iso8601
    }
  end
end
