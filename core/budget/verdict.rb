# frozen_string_literal: true

module Miser
  module Budget
    # Keeps if keep > 2σ, owes if keep < −2σ, else too close to call.
    module Verdict
      K = 2.0

      module_function

      # Where what is kept lies, as far as the verdict looks either way.
      # @return [Array(Float, Float), nil] A
      def band(keep, sigma) = keep && [keep - (K * (sigma || 0.0)), keep + (K * (sigma || 0.0))]

      # @param keep [Float, nil] A
      # @param sigma [Float, nil] A
      # @return [String, nil] keeps, owes, too_close; nil where unknown
      def of(keep, sigma)
        return nil unless keep

        doubt = K * (sigma || 0.0)
        return 'keeps' if keep > doubt || (keep >= 0 && doubt.zero?) # nothing earned, nothing owed: certain
        return 'owes' if keep < -doubt

        'too_close'
      end
    end
  end
end
