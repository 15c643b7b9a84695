# frozen_string_literal: true

require 'prawn'

module Miser
  module Formats
    # What is printed: letters that the machine has, or those that every PDF reader knows.
    module Paper
      FOLDER = '/usr/share/fonts/truetype/dejavu'
      MONO = 'Sheet Mono'
      SANS = 'Sheet Sans'
      FACES = { MONO => %w[DejaVuSansMono Courier], SANS => %w[DejaVuSans Helvetica] }.freeze
      # Of A4, points.
      MARGIN = 40

      module_function

      # @param pdf [Prawn::Document] @param name [String] MONO or SANS
      # @return [void]
      def dress(pdf, name)
        face, plain = FACES.fetch(name)
        normal = File.join(FOLDER, "#{face}.ttf")
        return pdf.font(plain) unless File.exist?(normal)

        bold = File.join(FOLDER, "#{face}-Bold.ttf")
        pdf.font_families.update(name => { normal: normal, bold: File.exist?(bold) ? bold : normal })
        pdf.font(name)
      end

      # @return [Boolean] whether the machine has the face, looked for once
      def there?(name)
        @there ||= FACES.to_h { |face, (file, _)| [face, File.exist?(File.join(FOLDER, "#{file}.ttf"))] }
        @there.fetch(name)
      end

      # A letter that the face has not would stop the whole sheet.
      # @param text [String] @return [String]
      def said(text, name = SANS)
        return text.gsub(/[^\u0000-\u{FFFF}]/, '?') if there?(name)

        text.gsub('−', '-').encode('Windows-1252', undef: :replace, replace: '?').encode('UTF-8')
      end
    end
  end
end
