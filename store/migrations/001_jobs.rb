# frozen_string_literal: true

# One table a kind of row. Fields that are looked for or joined on have columns of
# their own; the rest of a row, fields of newer versions among it, lies in body as
# JSON, so that nothing a file brought is lost.
Sequel.migration do
  up do
    create_table(:jobs, strict: true) do
      column :id, :text, primary_key: true
      column :revision, :integer, null: false
      column :name, :text, null: false
      column :bay, :text
      column :system, :text, null: false
      column :body, :text, null: false
      column :created_at, :text, null: false
      column :changed_at, :text, null: false
      column :removed_at, :text
    end
    %i[circuits scenarios ride].each do |name|
      create_table(name, strict: true) do
        foreign_key :job_id, :jobs, type: :text, null: false, on_delete: :cascade
        column :id, :text, null: false
        column :place, :integer, null: false
        column :body, :text, null: false
        primary_key %i[job_id id]
      end
    end
    create_table(:loads, strict: true) do
      foreign_key :job_id, :jobs, type: :text, null: false, on_delete: :cascade
      column :id, :text, null: false
      column :place, :integer, null: false
      column :name, :text, null: false
      column :role, :text, null: false
      column :body, :text, null: false
      primary_key %i[job_id id]
    end
    %i[readings choices].each do |name|
      create_table(name, strict: true) do
        column :job_id, :text, null: false
        column :id, :text, null: false
        column :place, :integer, null: false
        column :load_id, :text, null: false
        column :body, :text, null: false
        primary_key %i[job_id id]
        foreign_key %i[job_id load_id], :loads, on_delete: :cascade, deferrable: true
      end
    end
    create_table(:assumptions, strict: true) do
      foreign_key :job_id, :jobs, type: :text, null: false, on_delete: :cascade
      column :key, :text, null: false
      column :value, :text, null: false
      primary_key %i[job_id key]
    end
    # Every state a job has been in, for undo. back and forth are the revisions
    # that undo and redo restore.
    create_table(:history, strict: true) do
      foreign_key :job_id, :jobs, type: :text, null: false, on_delete: :cascade
      column :revision, :integer, null: false
      column :document, :text, null: false
      column :back, :integer
      column :forth, :integer
      column :what, :text, null: false
      column :at, :text, null: false
      primary_key %i[job_id revision]
    end
    create_table(:shop, strict: true) do
      column :key, :text, primary_key: true
      column :value, :text, null: false
    end
    create_table(:parts, strict: true) do
      column :id, :text, primary_key: true
      column :name, :text, null: false
      column :body, :text, null: false
    end
  end

  down { raise Sequel::Error, 'migrations only go forward' }
end
