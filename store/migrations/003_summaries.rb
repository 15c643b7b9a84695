# frozen_string_literal: true

# What lists show of a job, written with each save: the board and finding read nothing
# else. A summary says of which revision it is and by which rules it was made; one that
# is behind in either is made anew.
Sequel.migration do
  up do
    create_table(:summaries, strict: true) do
      foreign_key :job_id, :jobs, type: :text, primary_key: true, on_delete: :cascade
      column :revision, :integer, null: false
      column :rules, :text, null: false
      column :tally, :text, null: false
      column :bay, :text, null: false
      column :names, :text, null: false
      column :words, :text, null: false
      column :finds, :text, null: false
    end
    # Each list reads one index alone: the board's order, which are behind, what is filtered and found.
    add_index :jobs, %i[removed_at bay name id]
    add_index :jobs, %i[removed_at revision id]
    add_index :summaries, %i[job_id revision rules]
    add_index :summaries, %i[names job_id]
    add_index :summaries, %i[words job_id]
  end

  down { raise Sequel::Error, 'migrations only go forward' }
end
