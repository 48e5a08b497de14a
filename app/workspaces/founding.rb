# frozen_string_literal: true

# Makes a workspace: a name, its hosts, and a plain convention to begin with.
class Founding
  # The longest name in addresses.
  LONGEST_NAME = 60
  PLAIN = JSON.parse(File.read(File.expand_path("plain_convention.json", __dir__))).freeze
  CURRENCY = /\A[A-Z]{3}\z/

  # @param title [String]
  # @param own_hosts [Array<String>] for the plain convention
  # @param convention [Hash, nil] a document to begin with instead
  # @param currency [String] ISO 4217
  # @param host_map [Hash{String => String}] where hosts in one's own network really are
  # @param time_zone [String] in which moments are shown; "" for that of whoever looks
  # @param language [String] of the site (RFC 5646), in which its visitors ask for pages; "" for English
  # @return [Workspace]
  # @raise [Orvant::Error] naming what cannot be used
  def self.call(
    title:, own_hosts: [], convention: nil, currency: "EUR", host_map: {}, time_zone: "", language: ""
  )
    title, currency = self.title(title), self.currency(currency)
    Orvant::Net::HostMap.read(host_map).within(Settings.reach)
    document = convention || PLAIN.merge("name" => "#{title} naming rules", "own_hosts" => hosts(own_hosts))
    Orvant::Convention.read(document)
    preferences = Preferences.new({}).changed({"time_zone" => time_zone, "visitors" => visitors(language)})
    Workspace.transaction do
      workspace = Workspace.create!(
        name: name(title),
        title: title,
        currency: currency,
        host_map: host_map,
        preferences: preferences,
        signatures: [],
        expected_tags: []
      )
      workspace.convention_versions.create!(
        version: 1,
        document: document,
        note: convention ? "The one it was given" : "A plain one, to begin with"
      )
      workspace
    end
  end

  # The usual visitor asks for pages in English.
  def self.visitors(language) = (language.empty? || language.match?(/\Aen\b/i)) ? %w[desktop] : [language]
  private_class_method :visitors

  # @param text [String] as typed
  # @return [String]
  # @raise [Orvant::Error]
  def self.title(text)
    return text.strip if text.strip.length.between?(1, 100)

    raise Orvant::Error, "Give the workspace a name of at most 100 characters."
  end

  # @param text [String] as typed
  # @return [String]
  # @raise [Orvant::Error]
  def self.currency(text)
    return text if CURRENCY.match?(text)

    raise Orvant::Error, "“#{text[0, Orvant::Cut::WORD]}” is no currency: three letters, such as EUR."
  end

  # Every host may be written as people do: with letters of any script, with a star before it for all below
  # it.
  def self.hosts(written)
    named = written.map { |host| Orvant::Address::HostName.normal(host.strip) }.uniq
    raise Orvant::Error, "Name at least one host of the site's own under own_hosts." if named.empty?

    named.each { |host| Orvant::Address.parse("http://#{host.delete_prefix("*.")}/") }
  rescue Orvant::Error::UnusableAddress => error
    raise Orvant::Error, "One of own_hosts cannot be used: #{error.message}"
  end
  private_class_method :hosts

  # What stands in addresses: letters and digits of the title, and a number where another has the same.
  #
  # @param title [String]
  # @return [String]
  def self.name(title)
    plain = ActiveSupport::Inflector.transliterate(title).downcase
      .gsub(/[^a-z0-9]+/, "-").gsub(/\A-|-\z/, "")[0, LONGEST_NAME]
    plain = "workspace" if plain.empty?
    [plain, *(2..200).map { |number| "#{plain}-#{number}" }].find { |one| !Workspace.exists?(name: one) } ||
      "#{plain}-#{SecureRandom.hex(4)}"
  end
end
