# frozen_string_literal: true

# Files that belong to a job and are too large for its document: photographs and
# photometry. A row stays when the document lets go of it, so that undo finds it.
Sequel.migration do
  up do
    create_table(:attachments, strict: true) do
      foreign_key :job_id, :jobs, type: :text, null: false, on_delete: :cascade
      column :id, :text, null: false
      column :type, :text, null: false
      column :bytes, :blob, null: false
      primary_key %i[job_id id]
    end
  end

  down { raise Sequel::Error, 'migrations only go forward' }
end
