# frozen_string_literal: true

# Pictures of the shelf's parts.
Sequel.migration do
  up do
    create_table(:part_pictures, strict: true) do
      foreign_key :part_id, :parts, type: :text, primary_key: true, on_delete: :cascade
      column :bytes, :blob, null: false
    end
  end

  down { raise Sequel::Error, 'migrations only go forward' }
end
