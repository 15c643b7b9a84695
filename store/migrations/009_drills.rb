# frozen_string_literal: true

# Drills as they are played: what is hidden where, what was done about it, what it came to. Each is its player's own.
Sequel.migration do
  up do
    create_table(:drills, strict: true) do
      column :id, :text, primary_key: true
      # Nobody, where nobody signs in.
      column :person_id, :integer
      column :kind, :text, null: false
      # What makes it again; none for one that was made of a job's own case.
      column :code, :text
      column :seed, :integer, null: false
      column :level, :integer, null: false
      column :difficulty, :real, null: false
      column :name, :text, null: false
      # The machine as it was then, and what is hidden in it.
      column :body, :text, null: false
      column :acts, :text, null: false
      column :begun_at, :text, null: false
      column :ended_at, :text
      column :solved, :integer
      column :minutes, :real
      column :cents, :integer
      column :expected_minutes, :real
      column :expected_cents, :integer
      index %i[person_id ended_at]
      index %i[person_id begun_at]
    end
  end

  down { raise Sequel::Error, 'migrations only go forward' }
end
