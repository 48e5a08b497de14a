# frozen_string_literal: true

require "date"
require "json"

module Orvant
  class Signpost
    # All signposts as the redirect server knows them: a file that the application writes and the server reads
    # again when it changes.
    class Board
      # @param path [String]
      def initialize(path)
        @path = path
        @stamp = nil
        @posts = {}
      end

      # @param path [String]
      # @param signposts [Array<Signpost>]
      def self.write(path, signposts)
        text = JSON.generate(signposts.map { |one| one.to_h.merge(ends: one.ends&.iso8601) })
        File.write("#{path}.new", text)
        File.rename("#{path}.new", path)
      end

      # @param host [String] as requested
      # @param path [String]
      # @return [Signpost, nil]
      def find(host, path)
        refresh
        @posts[[host.to_s.downcase.sub(/:\d+\z/, ""), Signpost.normal(path)]]
      end

      private

      def refresh
        stamp = File.stat(@path).then { |file| [file.mtime, file.ino] }
        return if stamp == @stamp

        @posts = JSON.parse(File.read(@path), symbolize_names: true)
          .to_h { |one| [[one[:host], Signpost.normal(one[:path])], post(one)] }
        @stamp = stamp
      rescue Errno::ENOENT
        @posts = {}
      end

      def post(facts)
        Signpost.new(
          **facts.slice(:id, :host, :path, :target, :pass_on),
          ends: facts[:ends] && Date.iso8601(facts[:ends])
        )
      end
    end
  end
end
