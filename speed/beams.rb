# frozen_string_literal: true

require 'open3'
require 'rack'
require_relative '../cli/demo_data'
require_relative '../server/app'

module Miser
  module Speed
    # A large wall's whole analysis as one request, and a large photometry file, beside R
    # doing the same arithmetic on the same numbers (its own start not counted).
    class Beams
      FRAME = { 'distance_m' => 5.0, 'columns' => 41, 'rows' => 21, 'width_m' => 4.0, 'up_m' => 0.6, 'down_m' => 1.4 }.freeze
      ROUNDS = 20
      VERTICALS = (-90..90).map(&:to_f).freeze
      HORIZONTALS = (-90..90).step(2.5).map(&:to_f).freeze

      def run
        walls
        photometry
      end

      private

      def walls
        lit = [[40, 0.9, 0.25], [45, 1.5, 0.4]].map do |peak, wide, high|
          Beam::Wall.filled(FRAME) { |x, y| peak * Math.exp(-((x / wide)**2) - (((y + 0.3) / high)**2)) }
        end
        call = request(lit)
        ours = time { call.call }
        levels = Beam::Contour.levels(45.0)
        grids = lit.map(&:grid) << Beam::SharedWall.new(*lit).difference
        theirs = r_seconds(grids.flatten + levels, <<~R)
          n <- #{levels.size}; lv <- tail(d, n); x <- seq(-2, 2, length.out=41); y <- seq(-1.4, 0.6, length.out=21);
          w <- outer(c(.5, rep(1, 39), .5), c(.5, rep(1, 19), .5));
          work <- function() for (k in 0:2) { z <- matrix(d[k*861 + 1:861], 41, 21)[, 21:1]; l <- contourLines(x, y, z, levels=lv); s <- sum(w * z) * 0.01; p <- which.max(z) }
        R
        puts format('beam: two walls of 41 by 21, analysed, mapped and set against each other in one request, %<ours>.1f ms; R the contours and integrals alone %<theirs>.1f ms   ratio %<ratio>.2f',
          ours: ours * 1000, theirs: theirs * 1000, ratio: ours / theirs)
      end

      # @return [Proc] the request as a browser sends it
      def request(lit)
        database = Cli::DemoData.open(':memory:')
        jobs = Store::Jobs.new(database)
        document = jobs.find('wren125').document
        entered = lit.zip(%w[before after]).map do |wall, side|
          cells = wall.grid.each_with_index.flat_map do |row, j|
            row.each_with_index.map do |lux, i|
              { 'id' => "r#{j}c#{i}", 'lux' => lux }
            end
          end
          FRAME.merge('id' => side, 'beam' => 'low', 'side' => side, 'cells' => cells)
        end
        jobs.create(document.merge('id' => 'large', 'beam' => { 'walls' => entered }))
        app = Server::App.on(database).new
        environment = Rack::MockRequest.env_for('/api/jobs/large/stages/beam', 'HTTP_HOST' => '127.0.0.1')
        lambda do
          status, _, body = app.call(environment.dup)
          raise "the beam answered #{status}" unless status == 200

          body.each { |part| part }
        end
      end

      def photometry
        candela = HORIZONTALS.map { |h| VERTICALS.map { |v| (900 * Math.exp(-((h / 20)**2) - (((v + 2) / 4)**2))).round(2) } }
        rows = candela.map { |r| r.join(' ') }
        text = ['IESNA:LM-63-2002', 'TILT=NONE', "1 1000 1 #{VERTICALS.size} #{HORIZONTALS.size} 2 2 0 0 0", '1 1 20', VERTICALS.join(' '),
          HORIZONTALS.join(' '), *rows, ''].join("\r\n")
        ours = time { Formats::Lm63.read(text).wall(FRAME, down: 0.01) }
        theirs = r_seconds([], <<~R, given: text)
          work <- function() { t <- d[-(1:2)]; v <- scan(text=t, quiet=TRUE); nv <- v[4]; nh <- v[5]; a <- v[13 + 1:nv]; b <- v[13 + nv + 1:nh]; c <- matrix(v[-(1:(13 + nv + nh))], nv, nh);
            g <- expand.grid(x=seq(-2, 2, length.out=41), y=seq(0.6, -1.4, length.out=21)); dd <- sqrt(25 + g$x^2 + g$y^2); yy <- g$y + 0.05;
            h <- atan2(g$x, sqrt(yy^2 + 25)) * 180 / pi; u <- atan2(yy, 5) * 180 / pi; i <- findInterval(u, a); j <- findInterval(h, b); p <- (u - a[i]) / (a[i+1] - a[i]); q <- (h - b[j]) / (b[j+1] - b[j]);
            e <- ((1-q)*((1-p)*c[cbind(i,j)] + p*c[cbind(i+1,j)]) + q*((1-p)*c[cbind(i,j+1)] + p*c[cbind(i+1,j+1)])) * (5/dd)^3 / 25 }
        R
        puts format('photometry: a file of 181 by 73 read and laid on a wall of 41 by 21, %<ours>.1f ms; R the same %<theirs>.1f ms   ratio %<ratio>.2f', ours: ours * 1000, theirs: theirs * 1000,
          ratio: ours / theirs)
      end

      # @return [Float] s a round, once warm
      def time(&)
        5.times(&)
        start = Process.clock_gettime(Process::CLOCK_MONOTONIC)
        ROUNDS.times(&)
        (Process.clock_gettime(Process::CLOCK_MONOTONIC) - start) / ROUNDS
      end

      # @param script [String] R that defines work() on d, the numbers or the lines given
      # @return [Float] s a round, by R's own clock
      def r_seconds(numbers, script, given: nil)
        read = given ? 'readLines(input)' : 'scan(input, quiet=TRUE)'
        code = "input <- file('stdin'); d <- #{read}; close(input)\n#{script}\nfor (i in 1:5) work(); cat(system.time(for (i in 1:#{ROUNDS}) work())[['elapsed']] / #{ROUNDS})"
        out, status = Open3.capture2('Rscript', '--vanilla', '-e', code,
          stdin_data: given || numbers.map { |v| format('%.12g', v) }.join("\n"))
        raise 'R did not do its part' unless status.success?

        [out.to_f, 1e-6].max
      end
    end
  end
end
