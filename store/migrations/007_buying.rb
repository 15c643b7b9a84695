# frozen_string_literal: true

# Whom the shop buys from, what they ask, what lies on the shelf; and a number that changes whenever any of it does.
Sequel.migration do
  up do
    create_table(:suppliers, strict: true) do
      column :id, :text, primary_key: true
      column :name, 'text COLLATE NOCASE', null: false, unique: true
      column :body, :text, null: false
    end
    create_table(:prices, strict: true) do
      foreign_key :supplier_id, :suppliers, type: :text, null: false, on_delete: :cascade
      column :article, :text, null: false
      column :name, :text, null: false
      column :cents, :integer, null: false
      column :pack, :integer, null: false, default: 1
      column :lead_days, :integer
      column :category, :text
      primary_key %i[supplier_id article]
      index %i[supplier_id name]
    end
    # Which of a supplier's articles is which part of the shelf.
    create_table(:part_articles, strict: true) do
      foreign_key :part_id, :parts, type: :text, null: false, on_delete: :cascade
      column :supplier_id, :text, null: false
      column :article, :text, null: false
      foreign_key %i[supplier_id article], :prices, on_delete: :cascade
      primary_key %i[part_id supplier_id article]
      index %i[supplier_id article]
    end
    create_table(:stock, strict: true) do
      foreign_key :part_id, :parts, type: :text, primary_key: true, on_delete: :cascade
      column :counted, :integer, null: false, default: 0
      column :reorder_at, :integer
    end
    # What a job brought to the shelf, or took from it.
    create_table(:stock_moves, strict: true) do
      foreign_key :job_id, :jobs, type: :text, null: false, on_delete: :cascade
      column :part_id, :text, null: false
      column :pieces, :integer, null: false
      primary_key %i[job_id part_id]
    end
    create_table(:market, strict: true) do
      column :id, :integer, primary_key: true
      column :version, :integer, null: false
    end
    from(:market).insert(id: 1, version: 1)
    %w[parts suppliers prices part_articles stock stock_moves].product(%w[insert update delete]).each do |table, verb|
      run "CREATE TRIGGER market_#{table}_#{verb} AFTER #{verb} ON #{table} BEGIN UPDATE market SET version = version + 1; END"
    end
  end

  down { raise Sequel::Error, 'migrations only go forward' }
end
