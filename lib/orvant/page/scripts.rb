# frozen_string_literal: true

module Orvant
  module Page
    # What the text of scripts tells of what they may do, without running them.
    module Scripts
      # They read the address of their page, or what its visitor came with.
      READS = /\blocation\b|URLSearchParams|searchParams|document\s*\.\s*(?:URL|documentURI|baseURI|referrer)|\bnavigation\b/
      # They may send their visitor elsewhere.
      MOVES = /
        \blocation\s*(?:\.\s*href\s*)?=(?!=) | \blocation\s*\[ | \.\s*(?:href|src|action)\s*=(?!=) |
        \.\s*(?:replace|assign|navigate|submit|requestSubmit|click|reload|back|forward|go)\s*\( |
        \.\s*(?:open|write|writeln)\s*\( |
        \bopen\s*\( | httpEquiv | \b(?:eval|Function|import)\s*\( | innerHTML | outerHTML | insertAdjacentHTML
      /x

      # @param text [String] of scripts, or of a page with its scripts
      # @return [Boolean] whether what becomes of a visitor may depend on the values in the address
      def self.act_on_address?(text) = text.match?(READS) && text.match?(MOVES)
    end
  end
end
