# frozen_string_literal: true

# Lamps have rows of their own, and what is decided is decided for a lamp.
Sequel.migration do
  up do
    create_table(:positions, strict: true) do
      foreign_key :job_id, :jobs, type: :text, null: false, on_delete: :cascade
      column :id, :text, null: false
      column :place, :integer, null: false
      column :body, :text, null: false
      primary_key %i[job_id id]
    end
    create_table(:decisions, strict: true) do
      foreign_key :job_id, :jobs, type: :text, null: false, on_delete: :cascade
      column :id, :text, null: false
      column :place, :integer, null: false
      column :position_id, :text, null: false
      column :body, :text, null: false
      primary_key %i[job_id id]
    end
    self[:decisions].insert(%i[job_id id place position_id body], self[:choices].select(:job_id, :id, :place, :load_id, :body))
    drop_table(:choices)
    rename_table(:decisions, :choices)
  end

  down { raise Sequel::Error, 'migrations only go forward' }
end
