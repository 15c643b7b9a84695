# frozen_string_literal: true

# Who works in the shop, how they get in, and who made each state of a job. People who
# have gone stay, because what they did keeps their name.
Sequel.migration do
  up do
    create_table(:people, strict: true) do
      column :id, :integer, primary_key: true
      column :name, 'text COLLATE NOCASE', null: false
      # 2 works here, 3 has gone.
      column :status, :integer, null: false, default: 2
      column :role, :text, null: false, default: 'technician'
      column :pass_hash, :text
      column :pin_hash, :text
      column :made_at, :text
      index :name, unique: true, where: { status: 2 }
    end
    %i[pass pin].each do |way|
      create_table(:"#{way}_failures", strict: true) do
        foreign_key :id, :people, type: :integer, primary_key: true
        column :number, :integer, null: false, default: 1
      end
      create_table(:"#{way}_lockouts", strict: true) do
        foreign_key :id, :people, type: :integer, primary_key: true
        column :key, :text, null: false
        column :deadline, :text, null: false
      end
    end
    create_table(:sessions, strict: true) do
      foreign_key :account_id, :people, type: :integer, null: false
      column :session_id, :text, null: false
      column :created_at, :text, null: false, default: Sequel::CURRENT_TIMESTAMP
      column :last_use, :text, null: false, default: Sequel::CURRENT_TIMESTAMP
      primary_key %i[account_id session_id]
    end
    create_table(:invites, strict: true) do
      column :id, :integer, primary_key: true
      column :code_hash, :text, null: false, unique: true
      column :role, :text, null: false
      foreign_key :person_id, :people, type: :integer
      column :ends_at, :text, null: false
      column :used_at, :text
    end
    create_table(:tablets, strict: true) do
      column :id, :integer, primary_key: true
      column :name, :text, null: false
      column :token_hash, :text, null: false, unique: true
      column :made_at, :text, null: false
    end
    alter_table(:history) { add_column :by, :integer }
    alter_table(:jobs) { add_column :removed_by, :integer }
  end

  down { raise Sequel::Error, 'migrations only go forward' }
end
