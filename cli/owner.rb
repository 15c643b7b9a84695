# frozen_string_literal: true

require 'io/console'
require_relative 'options'
require_relative 'kept'
require_relative '../server/people/sign_in'
require_relative '../store/people'

module Miser
  module Cli
    # owner NAME: the shop's owner, or a new passphrase for one who has lost it; asked for at the terminal.
    module Owner
      def self.run(argv)
        options = Options.parse(argv, %i[data demo], files: 1, usage: 'owner NAME [--demo] [--data DIR]')
        name = options[:arguments].first
        database = Kept.open(Options.database_path(options))
        people = Store::People.new(database)
        sign_in = Server::SignIn.new(database, SecureRandom.random_bytes(64), people)
        known = people.named(name)
        known ? again(sign_in, people, known, passphrase) : sign_in.add(name, passphrase, 'owner')
        puts "#{people.named(name).name} is an owner of the shop#{' and signs in anew everywhere' if known}"
        0
      rescue Server::Refusal => e
        raise Failure, e.to_h[:fields].map { |f| "#{f[:field]} #{f[:message]}; accepted: #{f[:accepts]}" }.join('; ')
      end

      def self.again(sign_in, people, known, passphrase)
        sign_in.again(known.id, passphrase)
        people.give(known.id, 'owner')
      end

      def self.passphrase
        return $stdin.gets.to_s.chomp unless $stdin.tty?

        $stderr.print 'Passphrase: '
        $stdin.noecho(&:gets).to_s.chomp.tap { warn '' }
      end
      private_class_method :again, :passphrase
    end
  end
end
