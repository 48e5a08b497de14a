# frozen_string_literal: true

# Deletes a workspace for good, with all that belongs to it.
class Closing
  # Tables whose rows belong to something of a workspace, and by which column.
  BELOW = {LinkTrail => [:sweep_id, :sweeps],
           RehearsalRun => [:sweep_id, :sweeps],
           ImportEntry => [:import_id, :imports],
           SignpostTarget => [:signpost_id, :signposts], SignpostPass => [:signpost_id, :signposts]}.freeze

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

    pictures = RehearsalRun.where(sweep_id: @workspace.sweeps.select(:id))
      .pluck(:sweep_id, :rehearsal_script_id)
      .map { |ids| RehearsalRun.pictures(*ids) }
    recordings = @workspace.page_visits.ids.map { |id| PageVisit.recording(id) }
    ActiveRecord::Base.transaction { delete }
    FileUtils.rm_rf(pictures + recordings)
    Signpost.publish
  end

  private

  def delete
    BELOW.each do |model, (column, owners)|
      model.where(column => @workspace.public_send(owners).select(:id)).delete_all
    end
    [TrafficRow, TrafficDay, AskedPeriod::Sum, Combination].each { |rows| rows.where(workspace_id: @workspace.id).delete_all }
    tables.each do |table|
      statement = ["DELETE FROM #{table} WHERE workspace_id = ?", @workspace.id]
      ActiveRecord::Base.connection.execute(ActiveRecord::Base.sanitize_sql(statement))
    end
    @workspace.delete
  end

  # Whatever names its workspace goes with it, so that no table is forgotten.
  def tables
    connection = ActiveRecord::Base.connection
    connection.tables.select { |table| connection.column_exists?(table, :workspace_id) }
  end
end
