# frozen_string_literal: true

module Orvant
  class Convention
    # Recognises what looks like a placeholder that some platform should have filled, whether its dialect is
    # known or not.
    module Placeholder
      # What stands between delimiters: a name, with digits, dots, blanks, filters and alternatives.
      NAME = /[\p{L}\d_][^{}\[\]<>]{0,80}?/
      # The same where digits alone are a number.
      WORDY = /[\p{L}_][^{}\[\]<>]{0,80}?/
      WORD = /[\p{L}\d_.-]{1,60}/
      WHOLE = [
        /[$\#@%!]?\{{1,3}[%$!\#~*=|:@+^-]? *#{NAME} *[%$!\#~*=|:@+^-]?\}{1,3}/,
        /\[{1,2}[%*~$=\#|:@+^!-]? *#{WORDY} *[%*~$=\#|:@+^!-]?\]{1,2}/,
        /<{1,2}[%~$=*\#|:@+^!-]? *#{WORDY} *[%~$=*\#|:@+^!-]?>{1,2}/,
        /%{1,2}[\p{L}_][\p{L}\d_. -]{0,60}%{1,2}/,
        /\$[\p{L}_][\p{L}\d_.]{0,40}\$/,
        /\*\|[^|*]{1,60}\|\*/,
        /\(([~=*%$\#|]) *[\p{L}_][^()]{0,60}? *\1\)/,
        /\(\( *[\p{L}_][^()]{0,60}? *\)\)/,
        /([$\#*|~^_@!:])\1{1,2}\p{L}[\p{L}\d_. -]{0,60}?\1{2,3}/
      ].freeze
      # Half of one, cut or mistyped: an opening without its end, or an end without its opening. A single
      # closing sign at the end of a value is a slip of the pen.
      HALF = /\{\{|\}\}|[$\#]\{|<%|%>|\{%|%\}|\[\[|\]\]|\*\||\|\*|%%(?=\p{L})|(?<=\p{L})%%|\{[^{}]*\z|\A[^{}]*\}(?=.)/
      # Delimiters that nobody writes around a single word for any other reason.
      TWO_SIGNS = {
        "{{" => "}}",
        "[[" => "]]",
        "<<" => ">>",
        "((" => "))",
        "%%" => "%%",
        "*|" => "|*",
        "<%" => "%>",
        "{%" => "%}",
        "${" => "}",
        "\#{" => "}",
        "@@" => "@@",
        "##" => "##",
        "$$" => "$$",
        "||" => "||",
        "!!" => "!!",
        "^^" => "^^",
        "(~" => "~)",
        "[*" => "*]",
        "<~" => "~>",
        "(=" => "=)",
        "[%" => "%]"
      }.freeze
      SINGLE_WORD = Regexp.union(TWO_SIGNS.map { |open, close|
        /#{Regexp.escape(open)} {0,2}#{WORD} {0,2}#{Regexp.escape(close)}/
      })
      # Nothing of the kind is in a text without one of these.
      HINT = /[{}\[\]<>%$\#*|~^@!(]|__|::/

      class << self
        # @param text [String] the decoded value of a carrier
        # @return [String, nil] the first stretch that looks like a placeholder, or like half of one
        def in(text)
          return unless text.match?(HINT)

          WHOLE.each { |pattern| text[pattern]&.then { |found| return found } }
          text[HALF]
        end

        # @param text [String] decoded: another parameter's value, a path, a fragment
        # @return [String, nil] a single word between delimiters of two signs
        def single_word(text) = (text[SINGLE_WORD] if text.match?(HINT))
      end
    end
  end
end
