# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # What checks on tokens share beyond values of roles: tokens in others' parameters, in the path, behind
      # the fragment's mark and in the names of parameters.
      module LooseTokens
        # @param subject [View] that shows names and parts
        # @return [Boolean]
        def self.any?(subject) = subject.part_tokens.any? || subject.foreign.any? { |_, one| one.token }

        private

        def loose
          subject.foreign.filter_map { |number, one|
            if one.token &&
                subject.demanded_otherwise(subject.pair_at(number)).nil?
              loose_report(
                one.token,
                subject.pair_at(number),
                {"pair" => number}
              )
            end
          } +
            subject.part_tokens.map { |part, token| loose_report(token, nil, {"part" => part}) }
        end

        def loose_report(token, pair, place)
          where = pair&.name ||
            ((place["part"] == "path") ? "the path" : place["part"].sub("name ", "the name of "))
          finding(loose_message(token, where),
            parameter: pair&.name,
            place: place.merge("token" => token.text),
            evidence: [pair&.raw || subject.evidence],
            root: "#{self.class.code} #{where} #{token.text}",
            remedy: Remedy.new(
              at: "sighting",
              action: "Let the platform fill #{token.text} in #{where}, or take it out."
            ))
        end
      end
    end
  end
end
