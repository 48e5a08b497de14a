# frozen_string_literal: true

# docs/checks.md, made from the check classes.
class ChecksDocument
  HEAD = <<~MARKDOWN
    # The checks

    Made from the classes in `lib/orvant/checks` by `bin/orvant checks > docs/checks.md`; the specs run every example and fail when this
    page is stale. Codes are stable. Weights: **breaks** (attribution is lost), **skews** (it is wrong or split), **untidy** (a departure
    from the convention that changes no number). A weight may be heavier in a single finding where the harm is.
  MARKDOWN

  # @return [String] Markdown
  def to_s
    [
      HEAD,
      *Orvant::Check.all.group_by { |check| check.code[%r{\A[^/]+}] }
        .map { |family, checks| section(family, checks) }
    ].join("\n")
  end

  private

  def section(family, checks)
    ["## #{family}", *checks.map { |check| entry(check) }].join("\n\n") + "\n"
  end

  def entry(check)
    <<~MARKDOWN.chomp
      ### `#{check.code}` · #{check.weight}
      #{check.why}

      - fails: #{example(check.failing)}
      - passes: #{example(check.passing)}
    MARKDOWN
  end

  def example(example)
    "`#{[example].flatten(1).map { |one| shown(one) }.join(" → ")}`"
  end

  def shown(one)
    return one if one.is_a?(String)
    return JSON.generate(one) unless one.is_a?(Hash) && one.key?("query")

    said = one.except("query", "facts").merge(one.fetch("facts", {})).map { |name, value| "#{name} #{value}" }
    "#{one["query"]} (#{said.join(", ")})"
  end
end
