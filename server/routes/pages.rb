# frozen_string_literal: true

module Miser
  module Server
    module Routes
      # The built screens. Every address that is no file opens the app.
      module Pages
        DIST = File.expand_path('../../web/dist', __dir__)
        INDEX = File.join(DIST, 'index.html')

        def self.registered(app)
          app.get('/api/*') { raise Refusal.new(404, 'There is nothing at this address.') }

          app.get('/*') do
            path = File.expand_path(File.join(DIST, params['splat'].first))
            if path.start_with?("#{DIST}/") && File.file?(path)
              path.include?('/assets/') ? cache_control(:public, :immutable, max_age: 31_536_000) : cache_control(:no_cache)
              next Pages.send_packed(self, path)
            end
            halt 404 if File.extname(path) != '' && !File.file?(path) && request.path.start_with?('/assets/')
            raise Refusal.new(503, 'The screens are not built. Run bin/miser, which builds them.') unless File.file?(INDEX)

            cache_control :no_cache
            Pages.send_packed(self, INDEX)
          end
        end

        # The build lays a gzip copy beside each text file.
        def self.send_packed(app, path)
          app.headers 'Vary' => 'Accept-Encoding'
          packed = "#{path}.gz"
          return app.send_file(path) unless File.file?(packed) && app.request.env['HTTP_ACCEPT_ENCODING'].to_s.include?('gzip')

          app.headers 'Content-Encoding' => 'gzip'
          app.send_file(packed, type: File.extname(path))
        end
      end
    end
  end
end
