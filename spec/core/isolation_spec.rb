# frozen_string_literal: true

require "prism"

require "open3"

RSpec.describe "The core" do
  it "loads alone, whole, and knows no database, no web server and no screen" do
    script = <<~RUBY
      ENV["BUNDLE_GEMFILE"] = #{File.join(ROOT, "Gemfile").inspect}
      require "bundler/setup"
      $LOAD_PATH.unshift #{File.join(ROOT, "lib").inspect}
      require "orvant"
      Orvant.loader.eager_load
      strangers = %w[ActiveRecord Sinatra Puma Delayed Thor Capybara].select { |name| Object.const_defined?(name) }
      walk = lambda do |mod, seen|
        mod.constants(false).each do |name|
          value = mod.const_get(name, false)
          next unless value.is_a?(Module) && value.name.to_s.start_with?("Orvant") && seen.add?(value)
          strangers.concat(value.ancestors.map(&:to_s).grep(/ActiveRecord|Sinatra/))
          walk.call(value, seen)
        end
        seen
      end
      puts walk.call(Orvant, Set.new).size, strangers.inspect
    RUBY
    output, status = Open3.capture2e(RbConfig.ruby, "-rset", "-e", script)

    expect(status).to be_success, output
    expect(output.lines.first.to_i).to be > 60
    expect(output.lines.last.strip).to eq("[]")
  end

  it "has every check loaded before the first link is judged, since links are judged on many fibers at once" do
    script = "puts $LOADED_FEATURES.grep(%r{lib/orvant/checks/[a-z]+/[a-z_]+\\.rb}).size"
    output, status =
      Open3.capture2e(RbConfig.ruby, "-rbundler/setup", "-I#{File.join(ROOT, "lib")}", "-rorvant", "-e", script)

    expect(status).to be_success, output
    expect(output.to_i).to eq(Dir[File.join(ROOT, "lib/orvant/checks/*/*.rb")].size)
  end

  # Lower names never refer to later ones. Checks stand beside the noun that they judge.
  order = %w[Address Convention Net Page Trail Inventory Build Signpost Signal Browser Recording Looking Rehearsal Traffic Fix Export]
  beside = {
    "param" => "Inventory",
    "trail" => "Inventory",
    "tag" => "Browser",
    "page" => "Browser",
    "journey" => "Rehearsal",
    "traffic" => "Traffic"
  }

  Dir[File.join(ROOT, "lib/orvant/**/*.rb")].sort.each do |file|
    path = file.delete_prefix("#{ROOT}/lib/orvant/")
    noun = path.start_with?("checks/") ? beside[path[%r{checks/([a-z]+)}, 1]] : path[/\A[a-z]+/].capitalize
    place = order.index(noun) or next

    it "keeps its direction in #{path}" do
      code = File.readlines(file).grep_v(/\A\s*#/).join
      later =
        order.drop(place + 1).select do |name|
          code.match?(/(?<![A-Za-z:])(Orvant::)?#{name}(::|\.new|\.read|\.of)\b/)
        end
      expect(later).to eq([])
    end
  end

  # What a family judges knows nothing of its judges; Looking alone hands them what it has looked at.
  it "names no check in what it judges" do
    named = beside.flat_map do |family, noun|
      judged = (order.take(order.index(noun) + 1) - ["Looking"]).map(&:downcase)
      Dir[File.join(ROOT, "lib/orvant/{#{judged.join(",")}}{.rb,/**/*.rb}")]
        .select { |file| File.readlines(file).grep_v(/\A\s*#/).join.include?("Checks::#{family.capitalize}") }
    end
    expect(named).to eq([])
  end

  it "gives every limit a name, here and in the application" do
    number = /\d[\d_]+/
    limit = /\[0, ?#{number}\]|\.(?:first|last|limit|each_slice)\(#{number}\)|size (?:<|>|<=|>=) #{number}|\bclamp\(\d+, ?#{number}\)|\bline\(.*, ?#{number}\)|\bmost = #{number}/
    lines = Dir[File.join(ROOT, "{lib,app}/**/*.rb")].flat_map { |file| File.readlines(file).grep(limit).map { |line| "#{file}: #{line.strip}" } }
    expect(lines).to eq([])
  end

  # What Ruby 3.4 does not bring along by itself any more, and is asked for, stands in the Gemfile.
  it "runs on newer Rubies as far as that can be told from here: it is read by their grammar, and asks for no library that they lack" do
    gone = %w[abbrev base64 bigdecimal csv drb getoptlong mutex_m nkf observer resolv-replace rinda syslog]
    files = Dir[File.join(ROOT, "{app,lib,config,demo,bench,db,spec,bin}/**/*")].select { |path| File.file?(path) && (path.end_with?(".rb") || File.read(path, 60).to_s.match?(/\A#!.*ruby/)) }
    texts = files.to_h { |path| [path, File.read(path)] }
    expect(texts.size).to be > 500
    %w[3.3.0 3.4.0].each do |version|
      expect(texts.select { |_, text| Prism.parse(text, version: version).failure? }.keys).to eq([])
    end
    asked = texts.values.flat_map { |text| text.scan(/^\s*require "([a-z_]+)/).flatten }.uniq & gone
    named = File.read(File.join(ROOT, "Gemfile")).scan(/^gem "([\w-]+)"/).flatten
    expect(asked - named).to eq([])
  end
end
