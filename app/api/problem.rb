# frozen_string_literal: true

require "json"

# What the API answers when it cannot do what was asked: application/problem+json (RFC 9457), with a sentence
# a person can act on.
class Problem < StandardError
  KINDS = {
    not_signed_in: [
      401,
      "Nobody has signed in here.",
      "Sign in, or give a key that has not been taken back."
    ],
    wrong_password: [
      403,
      "That is not right.",
      "The address or the password is another. After five wrong tries one waits a little longer each time."
    ],
    too_many_tries: [
      429,
      "Too many tries.",
      "Wait a little, or ask for a link to a new password."
    ],
    not_permitted: [403, "You may not do that here.", "Ask an owner of the workspace."],
    not_found: [404, "There is nothing here.", "It may have been removed; go back to the list."],
    unusable_input: [422, "This cannot be used as it is.", ""],
    foreign_origin: [
      403,
      "Only Orvant's own pages may change anything here.",
      "Open Orvant itself and try again."
    ],
    too_large: [413, "The file is too large.", "Split it into files of at most 100 MB."],
    already_running: [409, "A sweep is under way already.", "Wait until it ends, or stop it."],
    overtaken: [
      409,
      "Somebody else saved in the meantime.",
      "Nothing of yours is lost: look at what they changed, then save again."
    ],
    no_convention: [409, "This workspace has no convention yet.", "Save one under Convention first."],
    rejected_target: [
      422,
      "The signpost should not lead there.",
      "Change the target, or say why it is put up nevertheless."
    ],
    second_factor: [401, "A code is missing.", "Type the code that your device shows now, or one of your recovery codes."],
    second_factor_missing: [
      403,
      "This workspace asks for a second factor.",
      "Turn a second factor on in your account, then come back."
    ],
    not_ready: [409, "This is not ready yet.", "Ask for it, and fetch it when it is."],
    cannot_check: [409, "Nothing here can be looked at again.",
      "Only session rows from after the change can prove this fix: import them under Traffic."],
    no_room: [507, "Nothing can be kept.", NoRoom::SENTENCE],
    unforeseen: [500, "Something went wrong inside Orvant.",
      "Nothing that you had is lost. Try again; if it stays, look into the server's log."]
  }.freeze

  attr_reader :kind, :status

  # @param kind [Symbol] one of KINDS
  # @param detail [String, nil] the sentence, where the usual one does not fit
  # @param more [Hash{String => Object}] what helps the person on
  def initialize(kind, detail = nil, more: {})
    @kind = kind
    @more = more
    @status, @title, usual = KINDS.fetch(kind)
    super(detail || usual)
  end

  # @return [Array] as Rack answers
  def to_rack = [status, {"content-type" => "application/problem+json"}, [to_json]]

  # @return [String]
  def to_json(*) = JSON.generate("type" => "about:blank",
    "kind" => kind,
    "title" => @title,
    "status" => status,
    "detail" => message, **@more)
end
