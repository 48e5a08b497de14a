# frozen_string_literal: true

# Deletes a workspace for good, with all that belongs to it: it is gone at once for everybody, and its rows go
# in the worker, a few at a time, so that nobody who writes waits.
class Closing
  # Rows that are deleted in one transaction.
  BATCH = 500
  # Tables whose rows belong to something of a workspace, and by which column.
  BELOW = {LinkTrail => [:sweep_id, :sweeps],
           RehearsalRun => [:sweep_id, :sweeps],
           ImportEntry => [:import_id, :imports],
           SignpostTarget => [:signpost_id, :signposts], SignpostPass => [:signpost_id, :signposts]}.freeze
  # Tables whose rows name others that go later.
  FIRST = [TrafficRow, TrafficDay, AskedPeriod::Sum, CombinationMonth, Combination].freeze

  # @param workspace [Workspace]
  def initialize(workspace)
    @workspace = workspace
  end

  # @return [void]
  # @raise [Orvant::Error] while a sweep or an import is under way
  def call
    if @workspace.busy?
      raise Orvant::Error, "Something is under way in “#{@workspace.title}”: stop it, then delete."
    end

    Workspace.transaction do
      # Their files go with them.
      PreparedFile.where(workspace_id: @workspace.id).destroy_all
      [Membership, Invitation, ApiKey].each { |rows| rows.where(workspace_id: @workspace.id).delete_all }
      # Its name is free for another.
      @workspace.update!(state: "closing", name: "closing #{@workspace.id}")
      Queues.put_once(ClosingJob.new(@workspace.id))
    end
    Signpost.publish
  end

  # Deletes every row and file of it, wherever a deletion was broken off before.
  #
  # @return [void]
  def delete
    BELOW.each do |model, (column, owners)|
      forget_files(model)
      thin(model.where(column => @workspace.public_send(owners).select(:id)))
    end
    FileUtils.rm_rf(@workspace.page_visits.ids.map { |id| PageVisit.recording(id) })
    FIRST.each { |model| thin(model.where(workspace_id: @workspace.id)) }
    tables.each { |table| thin(rows_of(table)) }
    @workspace.delete
    Signpost.publish
  end

  private

  def forget_files(model)
    return unless model == RehearsalRun

    runs = RehearsalRun.where(sweep_id: @workspace.sweeps.select(:id))
    FileUtils.rm_rf(runs.pluck(:sweep_id, :rehearsal_script_id).map { |ids| RehearsalRun.pictures(*ids) })
  end

  def thin(rows) = rows.in_batches(of: BATCH, &:delete_all)

  # Whatever names its workspace goes with it, so that no table is forgotten.
  def tables
    connection = ActiveRecord::Base.connection
    connection.tables.select { |table| connection.column_exists?(table, :workspace_id) } - %w[bundle_imports]
  end

  def rows_of(table)
    Class.new(ActiveRecord::Base) { self.table_name = table }.where(workspace_id: @workspace.id)
  end
end
