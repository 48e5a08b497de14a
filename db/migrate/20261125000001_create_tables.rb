# frozen_string_literal: true

# What Orvant keeps: one workspace an advertiser, and everything below it.
class CreateTables < ActiveRecord::Migration[7.2]
  def change
    create_workspace
    create_inventory
    create_sweeps
    create_findings
    create_traffic
    create_jobs
  end

  private

  def create_workspace
    create_table :workspaces do |t|
      t.string :name, null: false, index: {unique: true}
      t.string :title, null: false
      t.string :currency, null: false, default: "EUR"
      t.json :host_map, null: false
      t.json :signatures, null: false
      t.json :expected_tags, null: false
      t.timestamps
    end
    create_table :convention_versions do |t|
      t.references :workspace, null: false, index: false
      t.integer :version, null: false
      t.json :document, null: false
      t.string :note, null: false, default: ""
      t.timestamps
      t.index [:workspace_id, :version], unique: true
    end
    create_table :rehearsal_scripts do |t|
      t.references :workspace, null: false, index: false
      t.string :name, null: false
      t.json :document, null: false
      t.timestamps
      t.index [:workspace_id, :name], unique: true
    end
  end

  def create_inventory
    create_table :imports do |t|
      t.references :workspace, null: false
      t.string :kind, null: false
      t.string :filename, null: false
      t.integer :added, null: false, default: 0
      t.integer :already, null: false, default: 0
      t.json :rejected, null: false
      t.json :notes, null: false
      t.timestamps
    end
    create_table :links do |t|
      t.references :workspace, null: false, index: false
      t.string :address, null: false
      t.string :normal_form, null: false
      t.string :host, null: false
      t.string :kind, null: false, default: "other"
      t.string :place, null: false, default: ""
      t.string :owner, null: false, default: ""
      t.integer :spend, null: false, default: 0
      t.string :outcome, null: false, default: ""
      t.integer :weight, null: false, default: 0
      t.integer :findings_count, null: false, default: 0
      t.datetime :swept_at
      t.datetime :retired_at
      t.references :replaced_by, index: true
      t.timestamps
      t.index [:workspace_id, :normal_form], unique: true
      %i[address host kind place owner spend outcome weight findings_count].each { |column| t.index [:workspace_id, column, :id] }
    end
    create_table :sightings do |t|
      t.references :workspace, null: false, index: false
      t.references :link, null: false
      t.references :import
      t.string :identity, null: false
      t.string :kind, null: false
      t.string :place, null: false, default: ""
      t.string :owner, null: false, default: ""
      t.integer :spend
      t.date :since
      t.timestamps
      t.index [:workspace_id, :identity], unique: true
    end
  end

  def create_sweeps
    create_table :sweeps do |t|
      t.references :workspace, null: false
      t.references :fix
      t.references :convention_version, null: false
      t.string :state, null: false, default: "waiting"
      t.json :scope, null: false
      t.integer :done, null: false, default: 0
      t.integer :total, null: false, default: 0
      t.integer :findings_count, null: false, default: 0
      t.string :problem
      t.datetime :started_at
      t.datetime :finished_at
      t.timestamps
    end
    create_table :link_trails do |t|
      t.references :sweep, null: false, index: false
      t.references :link, null: false
      t.string :outcome, null: false
      t.integer :status
      t.string :final_address, null: false
      t.string :landing_page, null: false
      t.string :judged_address
      t.string :reason
      t.string :engine, null: false
      t.json :hops, null: false
      t.datetime :created_at, null: false
      t.index [:sweep_id, :link_id], unique: true
    end
    create_table :page_visits do |t|
      t.references :sweep, null: false, index: false
      t.references :workspace, null: false, index: false
      t.string :page, null: false
      t.json :visit, null: false
      t.datetime :created_at, null: false
      t.index [:sweep_id, :page], unique: true
      t.index [:workspace_id, :page]
    end
    create_table :rehearsal_runs do |t|
      t.references :sweep, null: false, index: false
      t.references :rehearsal_script, null: false
      t.json :run, null: false
      t.datetime :created_at, null: false
      t.index [:sweep_id, :rehearsal_script_id], unique: true
    end
  end

  def create_findings
    create_table :findings do |t|
      t.references :workspace, null: false, index: false
      t.references :sweep, null: false
      t.references :link
      t.references :fix
      t.string :page
      t.string :rehearsal
      t.string :code, null: false
      t.string :weight, null: false
      t.string :parameter
      t.json :place, null: false
      t.string :message, null: false
      t.json :evidence, null: false
      t.string :correction
      t.string :corrected_address
      t.string :root, null: false
      t.json :remedy, null: false
      t.boolean :current, null: false, default: true
      t.datetime :created_at, null: false
      t.index [:workspace_id, :current, :code]
      t.index [:workspace_id, :page]
      t.index [:workspace_id, :rehearsal]
    end
    create_table :fixes do |t|
      t.references :workspace, null: false, index: false
      t.string :root, null: false
      t.string :state, null: false, default: "open"
      t.string :weight, null: false
      t.json :codes, null: false
      t.string :action, null: false
      t.string :value
      t.string :at, null: false
      t.string :place, null: false, default: ""
      t.string :owner, null: false, default: ""
      t.integer :findings_count, null: false, default: 0
      t.integer :sessions, null: false, default: 0
      t.integer :conversions, null: false, default: 0
      t.integer :revenue, null: false, default: 0
      t.integer :shared_sessions, null: false, default: 0
      t.json :proof
      t.timestamps
      t.index [:workspace_id, :root], unique: true
    end
  end

  def create_traffic
    create_table :traffic_rows do |t|
      t.references :workspace, null: false, index: false
      t.references :import, null: false
      t.string :identity, null: false
      t.date :date, null: false
      %i[source medium campaign content term landing referrer].each { |field| t.string field, null: false, default: "" }
      t.integer :sessions, null: false
      t.integer :conversions, null: false, default: 0
      t.integer :revenue, null: false, default: 0
      t.string :channel, null: false, default: ""
      t.string :because, null: false, default: ""
      t.string :nearest
      t.string :cause, null: false, default: ""
      t.json :causes, null: false
      t.json :roots, null: false
      t.string :rightful_channel
      t.index [:workspace_id, :identity], unique: true
      t.index [:workspace_id, :channel, :id]
      t.index [:workspace_id, :cause, :id]
      t.index [:workspace_id, :date, :id]
    end
  end

  def create_jobs
    create_table :delayed_jobs do |t|
      t.integer :priority, default: 0, null: false
      t.integer :attempts, default: 0, null: false
      t.text :handler, null: false
      t.text :last_error
      t.datetime :run_at
      t.datetime :locked_at
      t.datetime :failed_at
      t.string :locked_by
      t.string :queue
      t.timestamps
      t.index [:priority, :run_at]
    end
  end
end
