# frozen_string_literal: true

require_relative '../errors'
require_relative 'followers'

module Miser
  module Job
    # Small edits of a job document. Members of a list are addressed by their id,
    # never by place, so two people's edits do not slide onto each other's rows.
    #
    #     { "op": "set",    "at": "/loads/l7/name", "value": "Tail" }
    #     { "op": "unset",  "at": "/machine/redline_rpm" }
    #     { "op": "add",    "at": "/loads", "value": { "id": "l9", … }, "before": "l7" }
    #     { "op": "put",    "at": "/card/log", "value": { "id": "x1", … } }   (added, or in place of the row of that id)
    #     { "op": "remove", "at": "/loads/l7" }
    #     { "op": "move",   "at": "/loads/l7", "before": "l3" }   (no before: to the end)
    class Edit
      # @param document [Hash] left as it is
      # @param edits [Array<Hash>]
      # @return [Hash] the edited copy
      # @raise [ImpossibleEdit]
      def self.apply(document, edits) = new(document).apply(edits)

      # What no edit touches is shared with the document given; the way to what one does is copied.
      def initialize(document)
        @ours = {}.compare_by_identity
        @given = document
        @document = ours(document)
      end

      def apply(edits)
        edits.each { |edit| one(edit) }
        Followers.settle(@document, @given)
      end

      private

      # @return [Hash, Array] a copy of the node that may be changed, where it is not one already
      def ours(node)
        return node if @ours[node]

        node.dup.tap { |copy| @ours[copy] = true }
      end

      # @return [Object] what stands there, to be changed
      def own(holder, key)
        child = holder[key]
        child.is_a?(Hash) || child.is_a?(Array) ? holder[key] = ours(child) : child
      end

      def one(edit)
        @at = edit['at']
        steps = @at.split('/').drop(1).map { |s| s.gsub('~1', '/').gsub('~0', '~') }
        fail_with('a job and its rows keep their ids') if steps.last == 'id' && %w[set unset].include?(edit['op'])
        case edit['op']
        when 'set' then set(steps, edit['value'])
        when 'unset' then parent(steps) { |hash, key| hash.delete(key) }
        when 'add' then add(steps, edit['value'], edit['before'])
        when 'put' then put(steps, edit['value'])
        when 'remove' then remove(steps)
        when 'move' then move(steps, edit['before'])
        else fail_with("unknown edit #{edit['op'].inspect}; accepted: set, unset, add, put, remove, move")
        end
      end

      def set(steps, value)
        fail_with('there is nothing here to set') if steps.empty?
        return parent(steps) { |hash, key| hash.delete(key) } if value.nil?

        *path, key = steps
        holder = walk(path, make: true)
        return replace_row(holder, key, value) if holder.is_a?(Array)

        fail_with('there is nothing here to set') unless holder.is_a?(Hash)
        holder[key] = value
      end

      def replace_row(list, id, value)
        index = list.index { |m| m.is_a?(Hash) && m['id'] == id } or fail_with("there is no row #{id.inspect} any more")
        fail_with('a row keeps its id') unless value.is_a?(Hash) && value['id'] == id
        list[index] = value
      end

      def list_for(steps, value)
        list = walk(steps, make: true, empty: [])
        fail_with('this is no list to add to') unless list.is_a?(Array)
        fail_with('a new row needs an id') unless value.is_a?(Hash) && value['id'].is_a?(String)
        list
      end

      # Whatever stood there: who puts a row says all of it, so that two who do so need not know of each other.
      def put(steps, value)
        list = list_for(steps, value)
        index = list.index { |m| m.is_a?(Hash) && m['id'] == value['id'] }
        index ? list[index] = value : list.push(value)
      end

      def add(steps, value, before)
        list = list_for(steps, value)
        fail_with("there is a row #{value['id'].inspect} already") if list.any? { |m| m.is_a?(Hash) && m['id'] == value['id'] }
        list.insert(place(list, before), value)
      end

      def remove(steps)
        list, index = row(steps)
        list.delete_at(index)
      end

      def move(steps, before)
        list, index = row(steps)
        member = list.delete_at(index)
        list.insert(place(list, before), member)
      end

      def row(steps)
        *path, id = steps
        list = walk(path)
        index = list.is_a?(Array) && list.index { |m| m.is_a?(Hash) && m['id'] == id }
        fail_with("there is no row #{id.inspect} any more") unless index
        [list, index]
      end

      def place(list, before)
        (before && list.index { |m| m.is_a?(Hash) && m['id'] == before }) || list.size
      end

      def parent(steps)
        fail_with('there is nothing here to clear') if steps.empty?
        *path, key = steps
        holder = walk(path)
        fail_with('there is nothing here to clear') unless holder.is_a?(Hash)
        yield holder, key
      end

      def walk(steps, make: false, empty: nil)
        steps.each_with_index.reduce(@document) do |node, (step, i)|
          case node
          when Array
            index = node.index { |m| m.is_a?(Hash) && m['id'] == step } || fail_with("there is no row #{step.inspect} any more")
            own(node, index)
          when Hash
            node[step] = ours(i == steps.size - 1 && empty ? empty : {}) if node[step].nil? && make
            node[step].nil? ? fail_with("there is no #{step.inspect} here") : own(node, step)
          else fail_with("there is no #{step.inspect} here")
          end
        end
      end

      def fail_with(message) = raise(ImpossibleEdit.new(at: @at, why: message))
    end
  end
end
