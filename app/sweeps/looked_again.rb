# frozen_string_literal: true

# Says what becomes of earlier findings on what a sweep has looked at again: proven absent where the same
# question was asked, by the same rules and settings as far as the check reads them; no longer asked where
# only the question has changed.
class LookedAgain
  # Versions that are tried for the one since which nothing is found; of more the last is named.
  MOST_VERSIONS = 20

  # @param sweep [Sweep]
  def initialize(sweep)
    @sweep = sweep
    @before = {}
  end

  # @param earlier [Array<Finding>] the last word on subjects that were looked at, of other sweeps
  # @param again [Array<Array(String, String, String)>] code, root and parameter of what was found there now
  # @yieldparam version [ConventionVersion]
  # @yieldparam finding [Finding]
  # @yieldreturn [Array<Orvant::Finding>] what the same look finds by the rules of that version on the
  #   finding's subject
  # @return [void]
  def settle(earlier, again, &by_rules)
    found, missed = earlier.partition { |one| again.include?(mark(one)) || under_another_root?(one, again) }
    supersede(found)
    missed = missed.select { |one| one.unsettled?(@sweep) }
    unasked = missed.to_h { |one| [one, change(one, by_rules)] }.compact
    put(missed - unasked.keys, absent_in_id: @sweep.id)
    unasked.each { |one, change| put([one], unasked: change) }
  end

  # Says that other findings of this sweep stand for these.
  #
  # @param findings [Array<Finding>]
  # @return [void]
  def supersede(findings) = put(findings, superseded_in_id: @sweep.id)

  private

  def put(findings, **state)
    Database.among(Finding, findings.map(&:id))
      .update_all(current: false, absent_in_id: nil, superseded_in_id: nil, unasked: nil, **state)
  end

  # What is found again on a page, of the same tag, and grouped otherwise is not mended: another finding
  # stands for it.
  def under_another_root?(finding, again)
    return false if finding.page.nil? || !finding.unsettled?(@sweep)

    about = finding.root.split.first(2)
    again.any? { |code, root, _| code == finding.code && root.split.first(2) == about }
  end

  def mark(finding) = [finding.code, finding.root, finding.parameter]

  # @return [Hash, nil] what has changed of the question, nil where it is the same or would have found nothing
  #   either
  def change(finding, by_rules)
    before = before(finding)
    return changed_settings(finding, before) if before.question && !same_settings?(finding, before)
    return if before.convention_version_id == @sweep.convention_version_id || by_rules.nil?

    changed_rules(finding, before.convention_version, by_rules)
  end

  # @return [Sweep] that has found it
  def before(finding)
    @before[finding.sweep_id] ||= Sweep.includes(:question, :convention_version).find(finding.sweep_id)
  end

  def same_settings?(finding, before)
    before.question_id == @sweep.question_id ||
      @sweep.question.nil? ||
      before.question.asked_of(finding) == @sweep.question.asked_of(finding)
  end

  def changed_settings(finding, before)
    deed = @sweep.workspace.deeds.where(setting: [*Question::SETTINGS, "rehearsals"])
      .where("created_at >= ?", before.created_at).order(:id)
      .find { |one| changes?(one, finding, before.question) }
    {"what" => deed ? deed.said : "The settings changed", "by" => deed&.author.to_s,
     "at" => (deed&.created_at || Time.now.utc).iso8601}
  end

  def changes?(deed, finding, question)
    old, new = [deed.before, deed.after].map do |value|
      {deed.setting => (deed.setting == "rehearsals") ? Question.scripts(value.to_a) : value}
    end
    question.asked_of(finding, old) != question.asked_of(finding, new)
  end

  # Nothing but the rules has changed where those of before still find it.
  def changed_rules(finding, version, by_rules)
    finds = ->(rules) { by_rules.call(rules, finding).any? { |one| mark(one) == mark(finding) } }
    return unless finds.call(version)

    later = @sweep.workspace.convention_versions
      .where(version: version.version + 1..@sweep.convention_version.version).order(:version)
    since = later.first(MOST_VERSIONS).find { |one| !finds.call(one) } || @sweep.convention_version
    {"what" => ["Version #{since.version} of the convention", since.note].reject(&:empty?).join(": "),
     "by" => since.author, "at" => since.created_at.iso8601}
  end
end
