# frozen_string_literal: true

# Machines apart from the jobs that were done on them; when they are to be looked at again; what jobs taught; what other shops sent;
# and words to find all of it by. A job that names no machine stands for one of its own.
Sequel.migration do
  up do
    create_table(:machines, strict: true) do
      column :id, :text, primary_key: true
      column :name, :text, null: false
      column :owner, :text
      column :model, :text
      column :model_key, :text
      column :frame_key, :text
      # Day it left the owner's hands for good: its looks rest.
      column :gone_on, :text
      column :body, :text, null: false
      column :changed_at, :text, null: false
      index :owner
      index :model_key
      index :frame_key
      index %i[name id]
    end
    alter_table(:jobs) do
      add_column :machine_id, :text
      add_column :handed_at, :text
    end
    run 'UPDATE jobs SET machine_id = id'
    run "UPDATE jobs SET handed_at = json_extract(body, '$.handed_over.at') WHERE json_valid(body)"
    add_index :jobs, %i[machine_id removed_at]
    # What is joined to jobs reads this alone: their rows are long.
    add_index :jobs, %i[id removed_at handed_at machine_id name created_at]
    add_index :jobs, %i[removed_at handed_at bay name id]
    run <<~SQL
      INSERT INTO machines (id, name, owner, body, changed_at)
      SELECT id, name, json_extract(body, '$.fleet'),
             json_object('name', name, 'fleet', json_extract(body, '$.fleet'), 'machine', json_extract(body, '$.machine')), changed_at
      FROM jobs WHERE json_valid(body)
    SQL
    create_table(:rechecks, strict: true) do
      foreign_key :job_id, :jobs, type: :text, null: false, on_delete: :cascade
      column :id, :text, null: false
      column :due_on, :text
      column :done_on, :text
      column :what, :text, null: false
      column :why, :text, null: false
      primary_key %i[job_id id]
      index %i[done_on due_on]
    end
    create_table(:lessons, strict: true) do
      foreign_key :job_id, :jobs, type: :text, null: false, on_delete: :cascade
      column :id, :text, null: false
      column :subject, :text, null: false
      column :key, :text
      column :shelf_id, :text
      column :body, :text, null: false
      primary_key %i[job_id id]
      index %i[subject key]
      index :shelf_id
    end
    create_table(:learnt_files, strict: true) do
      column :id, :integer, primary_key: true
      column :shop, :text, null: false
      column :made_on, :text, null: false
      column :serial, :integer, null: false
      column :rows, :integer, null: false
      column :taken_at, :text, null: false
      # Taken in together, and taken back together.
      column :batch, :integer, null: false
      column :gone_at, :text
      index %i[shop gone_at serial]
    end
    create_table(:learnt_rows, strict: true) do
      foreign_key :file_id, :learnt_files, type: :integer, null: false, on_delete: :cascade
      column :subject, :text, null: false
      column :key, :text, null: false
      column :body, :text, null: false
      index %i[subject key]
      index :file_id
    end
    create_table(:searchable, strict: true) do
      column :id, :integer, primary_key: true
      column :kind, :text, null: false
      column :ref, :text, null: false
      column :names, :text, null: false
      column :words, :text, null: false
      index %i[kind ref], unique: true
    end
    run "CREATE VIRTUAL TABLE finding USING fts5(names, words, content='searchable', content_rowid='id', prefix='2 3 4', tokenize=\"unicode61 remove_diacritics 2\")"
    run "CREATE VIRTUAL TABLE finding_terms USING fts5vocab(finding, 'row')"
    run 'CREATE TRIGGER searchable_insert AFTER INSERT ON searchable BEGIN INSERT INTO finding(rowid, names, words) VALUES (new.id, new.names, new.words); END'
    run "CREATE TRIGGER searchable_delete AFTER DELETE ON searchable BEGIN INSERT INTO finding(finding, rowid, names, words) VALUES ('delete', old.id, old.names, old.words); END"
    run <<~SQL
      CREATE TRIGGER searchable_update AFTER UPDATE ON searchable BEGIN
        INSERT INTO finding(finding, rowid, names, words) VALUES ('delete', old.id, old.names, old.words);
        INSERT INTO finding(rowid, names, words) VALUES (new.id, new.names, new.words);
      END
    SQL
    # What is found of a machine and of a part of the shelf stands in their own rows.
    text = ->(*values) { values.map { |v| "coalesce(#{v}, '')" }.join(" || ' ' || ") }
    said = ->(*paths) { paths.map { |path| "json_extract(x.body, '$.#{path}')" } }
    names = text['x.name', 'x.owner', 'x.model', *said['machine.frame']]
    found = { 'machines' => ['machine', names, text[*said['machine.year', 'note', 'gone_to']]],
              'parts' => ['part', 'x.name', "CASE WHEN json_valid(x.body) THEN #{text[*said['base', 'note']]} ELSE '' END"] }
    found.each do |table, (kind, named, words)|
      values = ->(row) { "'#{kind}', #{row}.id, #{named.gsub('x.', "#{row}.")}, #{words.gsub('x.', "#{row}.")}" }
      run "INSERT INTO searchable (kind, ref, names, words) SELECT #{values['x']} FROM #{table} x"
      run "CREATE TRIGGER found_#{table}_insert AFTER INSERT ON #{table} BEGIN INSERT INTO searchable (kind, ref, names, words) VALUES (#{values['new']}); END"
      run <<~SQL
        CREATE TRIGGER found_#{table}_update AFTER UPDATE ON #{table} WHEN old.body IS NOT new.body OR old.name IS NOT new.name BEGIN
          DELETE FROM searchable WHERE kind = '#{kind}' AND ref = old.id;
          INSERT INTO searchable (kind, ref, names, words) VALUES (#{values['new']});
        END
      SQL
      run "CREATE TRIGGER found_#{table}_delete AFTER DELETE ON #{table} BEGIN DELETE FROM searchable WHERE kind = '#{kind}' AND ref = old.id; END"
    end
    # A job thrown away for good is found no more.
    run "CREATE TRIGGER searchable_job AFTER DELETE ON jobs BEGIN DELETE FROM searchable WHERE kind = 'job' AND ref = old.id; END"
  end

  down { raise Sequel::Error, 'migrations only go forward' }
end
