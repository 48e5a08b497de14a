# frozen_string_literal: true

module Orvant
  module Checks
    module Tag
      # Finds pages whose visit is counted more than once: the same page view of the same account again.
      class Repeated < TagCheck
        describes "tag/repeated", weight: "skews",
          why: "A page view that leaves twice doubles pages and halves whatever is reckoned by page; visits that leave at once look as if they had stayed.",
          fails: {"markup" => ["gullwatch"], "signals" => ["view", "view"]}, passes: {"markup" => ["gullwatch"], "signals" => ["view"]}

        def findings
          subject.tags.reject { |tag| subject.unreadable?(tag) }.flat_map do |tag|
            views(tag).select { |_, same| same.size > 1 }
              .map { |(account, _), same| repeated(tag, account, same) }.uniq(&:root)
          end
        end

        private

        # Another address of the same page is a route of its own, and another account a report of its own.
        def views(tag)
          subject.signals(tag).select(&:page_view?).group_by { |signal| [signal.account, signal.page.to_s] }
        end

        def repeated(tag, account, same)
          stands = subject.visit.installations.to_a.count do |one|
            one.tag == tag && [nil, account].include?(one.account)
          end
          twice = (stands > 1) ? " It stands on the page #{stands} times." : ""
          report(tag,
            "#{name(tag)} sent the page view of this page #{same.size} times#{" to the account “#{account}”" if account}, so it is counted #{same.size} times.#{twice}",
            action: (stands > 1) ? "Leave one #{name(tag)} on this page." : "Send the page view once: something calls #{name(tag)} again.",
            evidence: subject.lines(same))
        end
      end
    end
  end
end
