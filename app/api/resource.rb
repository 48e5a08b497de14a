# frozen_string_literal: true

require "json"
require "sinatra/base"
require "zlib"

# The base of every resource: how errors are said, and what all resources read and answer with. A resource
# hands on what it does not know.
class Resource < Sinatra::Base
  include Paging

  # Where the request says who asks.
  CALLER = "orvant.caller"
  # A body of so many bytes takes memory that is worth giving back.
  LARGE = 100 * 1024

  set :environment, ENV.fetch("RACK_ENV", "production").to_sym
  set :show_exceptions, false
  set :raise_errors, false
  set :dump_errors, false
  set :static, false
  # The application does it once for all of them.
  set :protection, false
  set :host_authorization, {}

  before "/api/*" do
    content_type :json
    response["cache-control"] = "no-store"
  end

  error Problem do
    problem(env["sinatra.error"])
  end

  error Orvant::Error do
    problem(Problem.new(:unusable_input, env["sinatra.error"].message))
  end

  error Workspace::NoConvention do
    problem(Problem.new(:no_convention, env["sinatra.error"].message))
  end

  error Sinatra::BadRequest do
    problem(Problem.new(
      :unusable_input,
      "The parameters of this address cannot be read; take away what stands behind its question mark."
    ))
  end

  error ActiveRecord::RecordNotFound do
    problem(Problem.new(:not_found))
  end

  error do
    warn "#{env["sinatra.error"].class}: #{env["sinatra.error"].message}\n  #{env["sinatra.error"].backtrace.first(8).join("\n  ")}"
    problem(Problem.new(NoRoom.behind?(env["sinatra.error"]) ? :no_room : :unforeseen))
  end

  private

  def problem(problem)
    status problem.status
    content_type "application/problem+json"
    problem.to_json
  end

  # Other requests of this process have their turn more often meanwhile: with this priority Ruby takes turns
  # by the eighth of its usual time. What was needed for a large file is given back once it is answered.
  def after_others
    env["rack.after_reply"]&.push(FreeMemory.method(:give_back)) if request.content_length.to_i > LARGE
    Thread.current.priority = -3
    yield
  ensure
    Thread.current.priority = 0
  end

  # Where there is much, the worker makes it: it is fetched once it is ready.
  def answer(kind, asked = {})
    return json(PreparedFile::DOCUMENTS.fetch(kind).call(workspace, asked)) unless PreparedFile.large?(
      workspace, kind
    )

    status 202
    typed_json(PreparedFile.begin!(workspace, kind, asked, who.mark).as_document)
  end

  # What is shown of links and visits holds no personal data.
  def json(document) = JSON.generate(masked(document))

  def masked(document) = Orvant::Export::Masking.masked(document, personal_data)

  # @return [Orvant::PersonalData] as the workspace's convention says
  def personal_data
    @personal_data ||= params["workspace"].nil? ? Orvant::PersonalData.usual : workspace.personal_data
  end

  # What a person has typed comes back as it was typed.
  def typed_json(document) = JSON.generate(reads_only? ? masked(document) : document)

  # @return [Hash] what the request's body says; {} where it is empty
  def json_body = env.fetch(RequestContract::JSON_BODY)

  # Whoever is not in it is not told that there is one.
  def workspace
    @workspace ||= Workspace.shown.find_by(name: params["workspace"])
      &.then { |one| one if who.role_in(one) } || raise(Problem.new(:not_found,
        "There is no workspace “#{params["workspace"].to_s[0, Orvant::Cut::QUOTE]}”."))
  end

  def reads_only? = !params["workspace"].nil? && who.role_in(workspace) == "reader"

  # @return [Caller]
  def who = env.fetch(CALLER)

  # @return [String] under which links to Orvant are given out
  def base_address = Settings["ORVANT_ADDRESS"] || request.base_url

  # @return [String] who did what is asked for: whoever has signed in, else the name that was typed
  def author(wish) = who.name.empty? ? line(wish["author"]) : who.name

  # @return [Date]
  # @raise [Problem]
  def date(text, what)
    Date.iso8601(text.to_s)
  rescue ArgumentError
    raise Problem.new(:unusable_input, "#{what} is no date; write it as 2026-11-25.")
  end

  # @return [String] one line of text
  def line(text, most = Orvant::Cut::LINE) = text.to_s.scrub("").gsub(/[[:cntrl:]]+/, " ").strip[0, most]

  def convention = @convention ||= workspace.convention

  def csv(filename, headers, rows)
    content_type "text/csv", charset: "utf-8"
    attachment filename
    Orvant::Export::CSVTable.write(headers, rows.lazy.map { |row| masked(row) })
  end

  # The same, sent as it is written, when nothing of the request is known any more.
  def long_csv(filename, headers, rows)
    content_type "text/csv", charset: "utf-8"
    attachment filename
    hidden = personal_data
    shown = rows.lazy.map { |row| Orvant::Export::Masking.masked(row, hidden) }
    Ahead.new(Orvant::Export::CSVTable.parts(headers, shown))
  end

  # @param file [String] packed
  def recording(file, name)
    unless File.file?(file)
      raise Problem.new(
        :not_found,
        "There is no recording: it was made before Orvant kept them, or has been thinned out."
      )
    end

    attachment name
    content_type :json
    json(JSON.parse(Zlib::GzipReader.open(file, &:read)))
  end

  def anatomy(address) = Orvant::Export::Masking::Masked.new(convention.anatomy(address))

  # @return [Hash] with the corrected address in its parts
  def finding_document(finding)
    finding.as_document.merge("corrected_parts" => finding.corrected_address && anatomy(finding.corrected_address))
  end

  # @return [String] of the heaviest
  def weight_of(findings)
    Orvant::Finding::WEIGHTS.find { |weight| findings.any? { |finding| finding.weight == weight } } || ""
  end

  # @return [Hash{String => String}] what each tag is called, by its name in signatures
  def tag_names = @tag_names ||= workspace.tag_signatures.to_h { |one| [one.tag, one.name] }
end
