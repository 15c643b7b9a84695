# frozen_string_literal: true

require 'open3'
require 'tempfile'

module Miser
  # A general circuit simulator, as the outside reference. Its netlists are written
  # here from the job's figures; nothing of Miser's solver goes into them.
  module Ngspice
    module_function

    # @param netlist [String] with a .control part that prints
    # @return [Hash{String=>Float}] what it printed
    def run(netlist)
      Tempfile.create(['miser', '.cir']) do |file|
        file.write(netlist)
        file.flush
        out, status = Open3.capture2e('ngspice', '-b', file.path)
        values = out.scan(/^([a-z0-9_()]+)\s*=\s*(-?[\d.]\S*)/i).to_h { |name, value| [name.downcase, value.to_f] }
        raise "ngspice: #{status} #{out}" if values.empty?

        values
      end
    end

    # A charging circuit as behavioural sources on one node.
    # @param label [String] letters for its nodes
    def machine(label, curve, rpm, loads, battery: nil, held: nil)
      bus = "bus#{label}"
      lines = ["Balt#{label} 0 #{bus} I = #{alternator(curve, rpm, bus)}"]
      lines << "Breg#{label} #{bus} 0 I = 1e4 * max(V(#{bus}) - #{held}, 0)" if held
      lines << battery_line(label, bus, battery) if battery
      lines << "Rleak#{label} #{bus} 0 1e9" << "Cbus#{label} #{bus} 0 1m"
      loads.each_with_index { |(law, weight), i| lines << "Bl#{label}x#{i} #{bus} 0 I = #{current(law, weight, bus)}" }
      lines.join("\n")
    end

    # A coil into lamps, or a stator behind a bridge of two diodes' drop.
    def alternator(curve, rpm, bus)
      return "#{curve.i_inf} * sqrt(max(1 - (V(#{bus}) * #{curve.n0 / curve.v_ref} / #{rpm})^2, 0))" if curve.form.key == 'coil'

      speed = "max(#{rpm} * #{(curve.v_ref + 1.5) / curve.n0} / (V(#{bus}) + 1.5) - 1, 0)"
      power = { 'three_phase' => 1.57, 'one_phase' => 2.0 }.fetch(curve.form.key)
      "#{curve.i_inf} * pwr(#{speed}, #{power}) / (pwr(#{speed}, #{power}) + #{curve.c})"
    end

    def battery_line(label, bus, battery)
      take = "min(#{battery[:acceptance]} * (V(#{bus}) - #{battery[:rest]}), #{battery[:most]})"
      "Bbat#{label} 0 #{bus} I = V(#{bus}) < #{battery[:rest]} ? (#{battery[:rest]} - V(#{bus})) / #{battery[:ohms]} : -#{take}"
    end

    def current(law, weight, bus)
      if law[:forward]
        return "V(#{bus}) > #{law[:forward]} ? #{weight * law[:amps]} * (V(#{bus}) - #{law[:forward]}) / (#{law[:volts]} - #{law[:forward]}) : 0"
      end

      "V(#{bus}) >= #{law[:min] || 0} ? #{weight * law[:amps]} * (max(V(#{bus}), 0.01) / #{law[:volts]}) ^ (#{law[:exponent]}) : 0"
    end

    # Settled volts of the buses: a transient from a running machine's volts.
    def settle(parts, starts)
      starts_text = starts.map { |node, volts| "V(#{node})=#{volts}" }.join(' ')
      prints = starts.keys.map { |node| "meas tran m_#{node} FIND v(#{node}) AT=4" }.join("\n")
      run("machines\n#{parts.join("\n")}\n.ic #{starts_text}\n.control\ntran 5m 4 0 5m uic\n#{prints}\nquit\n.endc\n.end\n").transform_keys do |k|
        k.delete_prefix('m_')
      end
    end
  end
end
