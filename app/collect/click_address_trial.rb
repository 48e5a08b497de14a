# frozen_string_literal: true

# Resolves a click pattern as a person tries it: with samples, with values of their own, or with none.
class ClickAddressTrial
  # @param convention [Orvant::Convention]
  def initialize(convention)
    @convention = convention
  end

  # @param wish [Hash] network; levels: Array of name, landing, pattern, tail, own; values; samples: false for
  #   none
  # @return [Hash{String => Object}] the click address by level, and what the dialect offers
  # @raise [Orvant::Error::UnusableDocument] where the network has no dialect
  def call(wish)
    dialect = @convention.dialect(wish["network"]) or raise Orvant::Error::UnusableDocument, "There is no dialect for “#{wish["network"].to_s[0, Orvant::Cut::QUOTE]}”."
    click = Orvant::Inventory::ClickAddress.new(
      levels(wish),
      dialect,
      values: wish["values"].to_h.transform_values(&:to_s),
      samples: wish["samples"] != false
    )
    click.to_h.merge("offered" => dialect.tokens.map { |token|
      {
        "token" => token.name,
        "meaning" => token.meaning.to_s,
        "sample" => token.sample.to_s,
        "landing" => token.landing,
        "condition" => token.condition == true
      }
    },
      "parts" => parts(click.to_s))
  end

  private

  def levels(wish)
    Array(wish["levels"]).grep(Hash).first(Orvant::Inventory::Level::NAMES.size).map do |level|
      texts = %w[name landing pattern tail].to_h do |name|
        [name.to_sym, level[name].to_s[0, Orvant::Address::MAX_LENGTH]]
      end
      Orvant::Inventory::Level.new(
        **texts,
        own: level["own"].is_a?(Hash) ? level["own"].transform_values(&:to_s) : {}
      )
    end
  end

  def parts(text)
    Orvant::Convention::Anatomy.of(Orvant::Address.parse(text), @convention).map(&:to_h)
  rescue Orvant::Error::UnusableAddress
    []
  end
end
