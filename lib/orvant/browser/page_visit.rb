# frozen_string_literal: true

module Orvant
  module Browser
    # What was seen on one page in the sealed browser.
    #
    # address: as opened · page: as pages are told apart (Convention#page_of) · others: how many more such
    # addresses of its path there are, for which it stands · final_address · title · reason: a sentence where
    # it could not be opened · signals: Array<Signal>, those that were sent on leaving among them · tags: tags
    # found in the markup · refused: requests that were not made · held: Array<Held>, requests to nobody knows
    # whom · trouble: why the page may not have worked for want of them, or nil · watched: milliseconds ·
    # facts: what the page says of itself: canonical, noindex, referrer_policy, forms (action, fields,
    # hidden), language, and links that hide the referrer (`unreferred`: absolute addresses) · installations:
    # Array<Signal::Installation>, where tags stand in the markup as it was answered · calls: Hash of tag to a
    # call of it that stands above its base code · errors: Array<Hash> of message, and whether a policy
    # blocked something · state: of consent (`untouched`, `yes`, `no`), nil where nobody was asked · earlier:
    # Array<Signal>, what left before the choice of that state · states: what left in each state of consent
    # (state, reason, signals), nil where none are told apart · har: all that was asked for and answered
    # (Log); it is kept apart.
    PageVisit = Struct.new(:address,
      :page,
      :others,
      :final_address,
      :title,
      :reason,
      :signals,
      :tags,
      :refused,
      :held,
      :trouble,
      :watched,
      :facts,
      :installations,
      :calls,
      :errors,
      :state,
      :states,
      :earlier,
      :har, keyword_init: true) do
      # @return [String] host and path: where the work on it is
      def path = page[/\A[^?#]*/]

      # @return [Hash{String => Object}] for JSON
      def to_h
        (members - [:har]).to_h { |name| [name.to_s, self[name]] }
          .merge("signals" => signals.map(&:to_h),
            "held" => held.to_a.map(&:to_h),
            "installations" => installations.to_a.map(&:to_h),
            "earlier" => earlier.to_a.map(&:to_h))
      end
    end

    class PageVisit
      # What is kept of a page: more of a kind says nothing new.
      MOST_FORMS = 20
      MOST_FIELDS = 100
      MOST_HIDDEN = 50
      MOST_REFUSED = 50
      MOST_FAULTS = 20
      MOST_ANCHORS = 200
      # What is kept of what was held, and shown.
      MOST_HELD = 100
      # The state of a page that asks nobody for consent.
      NOBODY_ASKED = "untouched"
      # Whether people were asked for consent, how many signals had left before, and milliseconds that it was
      # watched afterwards.
      Choice = Struct.new(:asked, :before, :watched, keyword_init: true)
      # How often a page is asked for before it counts as one that cannot be opened.
      TRIES = 2

      # @param document [Hash] what `to_h` gave
      # @return [PageVisit] as far as checks over many pages read it
      def self.from_h(document)
        facts = document.slice("address", "page", "final_address", "reason", "tags", "watched")
          .transform_keys(&:to_sym)
        new(**facts, signals: document["signals"].map { |signal| Signal.from_h(signal) })
      end

      class << self
        # Opens a page and watches it until it is quiet.
        #
        # @param browser [Sealed]
        # @param address [String]
        # @param signatures [Array<Signal::Signature>]
        # @param page [String] as pages are told apart; host and path where nobody says
        # @param others [Integer] how many more it stands for
        # @param state [String, nil] of consent, in which it is seen
        # @param target [String, Hash, nil] what is clicked for that state
        # @param more [Boolean] whether it is watched in a further state at once
        # @return [PageVisit] always; what went wrong is its reason
        def watch(
          browser, address, signatures,
          page: Address.new(address).page, others: 0, state: nil, target: nil, more: false
        )
          visited(browser, address, page: page, others: others, state: state, more: more) do |visit|
            seen(visit, address, signatures, target)
          end
        end

        # Opens a page that has been watched already once more in another state of consent, for what leaves
        # there.
        #
        # @param main [PageVisit] how it was watched
        # @param more [Boolean] whether a further state follows at once
        # @return [PageVisit] with its signals alone; what went wrong is its reason
        def beside(browser, main, state:, target: nil, more: false)
          visited(browser, main.address, page: main.page, others: main.others, state: state,
            more: more) do |visit|
            {**heard_beside(visit, main.address, target), final_address: main.final_address}
          end
        end

        # @param markup [Page::Markup] as answered
        # @param installations [Array<Signal::Installation>]
        # @param signatures [Array<Signal::Signature>]
        # @return [Hash{String => String}] by tag, a call that stands above its base code
        def calls(markup, installations, signatures)
          signatures.reject { |one| one.functions.empty? }.filter_map do |one|
            first = installations.select { |standing| standing.tag == one.tag }.map(&:position).min
            call = Page::Calls.new(markup.scripts, one.functions).above(first)
            [one.tag, call] if call && first
          end.to_h
        end

        # @param markup [Page::Markup] as the page stands
        # @param base [Address] of the page
        # @param headers [Hash{String => String}] of its answer, by lower case name
        # @param body [String]
        # @return [Hash{String => Object}] what the page says of itself
        def facts(markup, base, headers, body)
          trail = Trail.new(final_address: base.raw, headers: headers, body: body)
          Trail::Landing.facts(trail, markup).except("title").merge("language" => markup.language,
            "unreferred" => unreferred(markup, base),
            "forms" => markup.forms.first(MOST_FORMS).map { |form|
              {
                "action" => form.action[0, Cut::CELL],
                "fields" => form.fields.first(MOST_FIELDS),
                "hidden" => form.hidden.first(MOST_HIDDEN).to_h
              }
            })
        end

        private

        def visited(browser, address, page:, others:, state:, more:, &look)
          tries = tries.to_i + 1
          seen = browser.visit(more: more, &look)
          new(**blank(address), state: state, **seen.compact, page: page, others: others)
        rescue Error::Unreachable => error
          retry if tries < TRIES && !error.is_a?(Error::TooHeavy)
          new(**blank(address), page: page, others: others, state: state, reason: error.message)
        end

        def seen(visit, address, signatures, target)
          visit.record
          answer, request, watched = arrive(visit, address)
          answered = visit.answered(request)
          choice = choose(visit, target)
          facts = {
            final_address: visit.current_address,
            watched: watched + choice.watched,
            trouble: visit.trouble,
            errors: errors(visit),
            **standing(answered, visit, signatures),
            **markup(visit, signatures, answer["headers"].transform_keys(&:downcase))
          }
          visit.leave
          {
            **facts,
            **heard(visit, choice, target),
            har: visit.har,
            refused: visit.refused.first(MOST_REFUSED),
            held: visit.held.first(MOST_HELD)
          }
        end

        def heard_beside(visit, address, target)
          arrive(visit, address)
          choice = choose(visit, target)
          visit.leave
          heard(visit, choice, target)
        end

        # @return [Array(Hash, String, Integer)] what answered, the browser's id of the request, and
        #   milliseconds
        def arrive(visit, address)
          answer = request = nil
          frame = visit.frame
          visit.hear("Network.responseReceived") do |event|
            if event["type"] == "Document" && event["frameId"] == frame
              answer, request = event.values_at("response", "requestId")
            end
          end
          visit.set_out(address)
          watched = visit.until_still
          require_answer(answer, address, visit)
          [answer, request, watched]
        end

        # What people are asked for consent by is clicked, where it is there.
        def choose(visit, target)
          before = visit.signals.size
          unless target && visit.click_if_there(target)
            return Choice.new(asked: false, before: 0, watched: 0)
          end

          visit.go_on
          Choice.new(asked: true, before: before, watched: visit.until_still)
        end

        def heard(visit, choice, target)
          {
            signals: visit.signals.drop(choice.before),
            earlier: visit.signals.first(choice.before),
            state: (NOBODY_ASKED if target && !choice.asked)
          }
        end

        def errors(visit)
          visit.script_errors.first(MOST_FAULTS).map { |one| {"message" => one[:message]} } +
            visit.blocked.first(MOST_FAULTS).map { |one| {"message" => one[:message], "policy" => true} }
        end

        # By the document as it was answered: what a loader puts in later is neither late nor early.
        def standing(answered, visit, signatures)
          return {installations: [], calls: {}} unless answered

          markup = Page::Markup.new(answered)
          installations = signatures.flat_map do |one|
            one.installations(markup, Address.new(visit.current_address))
          end
          {installations: installations, calls: calls(markup, installations, signatures)}
        end

        # A page that did not come says nothing about its tags.
        def require_answer(answer, address, visit)
          raise Error::Unreachable, visit.unopened(address, "it gave no answer") unless answer
          if (why = visit.kept_in(answer["url"]))
            raise Error::Unreachable, visit.unopened(address, why)
          end
          if answer["status"] >= 500
            raise Error::Unreachable, "#{address[0, Cut::LINE]} answered #{answer["status"]} in the browser."
          end
        end

        def markup(visit, signatures, headers)
          body = visit.body
          markup = Page::Markup.new(body)
          base = Address.new(visit.current_address)
          {
            title: markup.title,
            tags: signatures.select { |one| one.installations(markup, base).any? }.map(&:tag),
            facts: facts(markup, base, headers, body)
          }
        end

        # Links that ask the browser to send no referrer.
        def unreferred(markup, base)
          markup.anchors.select { |anchor|
            anchor.rel.include?("noreferrer") ||
              anchor.referrerpolicy == "no-referrer"
          }.first(MOST_ANCHORS).filter_map do |anchor|
            Address::Reference.resolve(anchor.href, base).raw
          rescue Error::UnusableAddress
            nil
          end
        end

        def blank(address)
          {address: address, final_address: address, signals: [], tags: [],
           refused: [], held: [], watched: 0, title: "", facts: {}, installations: [], calls: {}, errors: []}
        end
      end
    end
  end
end
