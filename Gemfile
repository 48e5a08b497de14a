# frozen_string_literal: true

source "https://rubygems.org"

# The core
gem "addressable", "~> 2.8"
gem "async-http", "~> 0.88"
gem "bigdecimal", ">= 3.1"
gem "brotli", "~> 0.9"
gem "caxlsx", "~> 4.2"
gem "csv", "~> 3.3"
gem "damerau-levenshtein", "~> 1.3"
gem "device_detector", "~> 1.1"
gem "ferrum", "~> 0.17"
gem "http-cookie", "~> 1.0"
gem "json_schemer", "~> 2.4"
gem "mail", "~> 2.8"
gem "nokogiri", "~> 1.18"
gem "public_suffix", ">= 6.0", "< 8"
gem "regexp_parser", "~> 2.10"
gem "roo", ">= 2.10", "< 5"
gem "rqrcode", ">= 2.2", "< 4"
gem "rubyzip", ">= 2.4", "< 4"
gem "simple_xlsx_reader", "~> 5.1"
gem "zeitwerk", "~> 2.6"
gem "zstd-ruby", "~> 2.0"

# The application and the command line
gem "activerecord", ">= 7.2", "< 9"
gem "bcrypt", "~> 3.1"
gem "delayed_job_active_record", "~> 4.1"
gem "drb", "~> 2.2"
gem "puma", ">= 6.5", "< 9"
gem "rack-attack", "~> 6.7"
gem "rack-protection", "~> 4.2"
gem "rackup", "~> 2.2"
gem "rotp", "~> 6.3"
gem "sinatra", "~> 4.2"
gem "sqlite3", "~> 2.0"
gem "thor", "~> 1.3"
gem "tzinfo-data", "~> 1.2025"
gem "zxcvbn", "~> 1.0"

# Only where DATABASE_URL names a PostgreSQL: bundle config set --local with postgresql
group :postgresql, optional: true do
  gem "pg", "~> 1.5"
end

group :development do
  gem "capybara", "~> 3.40"
  gem "cuprite", "~> 0.17"
  gem "rack-test", "~> 2.1"
  gem "rspec", "~> 3.13"
  gem "standard", "~> 1.45"
end
