# frozen_string_literal: true

require "zeitwerk"

# The core of Orvant: the rules of the job and their computation. It takes values and returns values; it knows
# no database, no web server and no screen.
#
# In the order of the job, each name using only those before it:
#
#   Address     anatomy of an address: raw, ordered pairs, normal form
#   Convention  naming rules, vocabularies, channel rules
#   Net         the one door to the network, and its guard
#   Page        what a page's markup says
#   Trail       hops and fates of a link, and where it lands
#   Inventory   readers of ads, messages, pages, registers -> sightings
#   Build       new links from what a person fills in
#   Signpost    friendly paths that lead to full links
#   Signal      how tags are recognised, and what they sent
#   Browser     sealed Chromium
#   Rehearsal   a scripted visit with expectations
#   Traffic     session rows, channels, causes, forecast
#   Fix         findings and causes with one root
#   Export      tables out
#
# Checks, one class in one file each, stand in Checks by family (param, trail, tag, journey, traffic). What
# those on parameters judge a link by stands beside them in `param/judging`; `Checks::Param.judge` is the way
# in.
module Orvant
  # @return [Zeitwerk::Loader] the loader of the core alone
  def self.loader
    @loader ||= Zeitwerk::Loader.for_gem.tap do |loader|
      loader.inflector.inflect("csv" => "CSV", "csv_table" => "CSVTable")
      loader.collapse("#{__dir__}/orvant/checks/param/judging")
    end
  end
  loader.setup
end

# All checks are there before any of them judges. Loaded on first use, they would be while many links are
# judged at once on fibers, and loading a file lets another fiber run: that one would judge by those loaded so
# far.
Orvant::Check.all
