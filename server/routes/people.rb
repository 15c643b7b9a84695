# frozen_string_literal: true

require_relative '../people/roles'
require_relative '../people/sign_in'

module Miser
  module Server
    module Routes
      # Who is asking, who works here, codes that invite, tablets that take a PIN.
      module People
        TABLET_S = 400 * 24 * 3600

        def self.registered(app)
          own(app)
          others(app)
          app.get('/api/me') { answer(200, People.me(self)) }

          app.post('/api/people/owner') do
            body = body_of('/api/people/owner')
            # From the machine itself, while there is none: with an owner the shop may go on the network.
            raise Refusal.new(409, 'The shop has an owner.', kept: 'Nothing was changed.') if settings.people.owner? || settings.network

            settings.sign_in.add(body['name'], body['passphrase'], 'owner')
            answer(201, People.all(self))
          end

          app.post('/api/people/join') do
            body = body_of('/api/people/join')
            raise Refusal.new(429, 'Codes were tried often just now.', kept: 'Wait a minute.') unless settings.joins.take?

            joined = settings.people.admit(body['code']) { |invite| People.join(settings.sign_in, invite, body) }
            raise People.no_code unless joined

            answer(201, { done: true })
          end

          app.get('/api/certificate') do
            pem = found(settings.network&.authority, 'certificate')
            attachment('shop-certificate.crt')
            content_type 'application/x-x509-ca-cert'
            pem
          end
        end

        # What everybody does for themselves.
        def self.own(app)
          app.post('/api/me/passphrase') do
            body = body_of('/api/me/passphrase')
            People.prove(self, body)
            settings.sign_in.give_passphrase(person.id, body['new_passphrase'])
            request.env['rodauth'].remove_all_active_sessions_except_current
            answer(200, People.me(self))
          end

          app.post('/api/me/pin') do
            body = body_of('/api/me/pin')
            People.prove(self, body)
            body['pin'] ? settings.sign_in.give_pin(person.id, body['pin']) : settings.people.drop_pin(person.id)
            answer(200, People.me(self))
          end

          app.post('/api/me/sign-out') do
            settings.people.sign_out(found(person, 'person').id)
            answer(200, { done: true })
          end
        end

        def self.others(app)
          app.get('/api/people') { answer(200, People.all(self)) }

          app.post('/api/people/invites') do
            body = body_of('/api/people/invites')
            found(settings.people.find(body['person']), 'person') if body['person']
            answer(201, settings.people.invite(body['role'], person_id: body['person']))
          end

          app.delete('/api/people/invites/:id') do
            found(settings.people.take_back(params['id'].to_i) || nil, 'code')
            answer(200, People.all(self))
          end

          app.patch('/api/people/:id') do
            body = body_of('/api/people/{id}')
            People.not_alone(settings.people.give(People.one(self).id, body['role']))
            answer(200, People.all(self))
          end

          app.delete('/api/people/:id') do
            People.not_alone(settings.people.part(People.one(self).id))
            answer(200, People.all(self))
          end

          app.post('/api/people/:id/sign-out') do
            settings.people.sign_out(People.one(self).id)
            answer(200, People.all(self))
          end

          app.post('/api/tablets') do
            name = body_of('/api/tablets')['name'].strip
            response.set_cookie(SignIn::TABLET, value: settings.people.know(name), path: '/', httponly: true, same_site: :strict,
              secure: settings.network&.secure || false, max_age: TABLET_S.to_s)
            answer(201, People.all(self))
          end

          app.delete('/api/tablets/:id') do
            found(settings.people.forget_tablet(params['id'].to_i) || nil, 'tablet')
            answer(200, People.all(self))
          end
        end

        def self.one(app) = app.found(app.settings.people.find(app.params['id'].to_i), 'person')

        def self.not_alone(done)
          raise Refusal.new(409, 'The shop would be left without an owner.', kept: 'Nothing was changed.') unless done
        end

        # @raise [Refusal] where the passphrase is not theirs
        def self.prove(app, body)
          return if app.settings.sign_in.proves?(app.found(app.person, 'person').name, body['passphrase'])

          raise Refusal.new(422, 'This was not saved.', kept: 'Nothing was changed.',
            fields: [{ at: '/passphrase', field: 'Passphrase', message: 'is not yours', accepts: 'the one you sign in with' }])
        end

        # Somebody new, or somebody who had forgotten their passphrase: then they are out everywhere else.
        def self.join(sign_in, invite, body)
          return sign_in.add(body['name'], body['passphrase'], invite[:role]) unless invite[:person_id]

          sign_in.again(invite[:person_id], body['passphrase'])
        end

        def self.no_code
          Refusal.new(422, 'This was not saved.', kept: 'What you typed stays in the field.',
            fields: [{ at: '/code', field: 'Code', message: 'is none, was used, or is too old',
                       accepts: 'a code of the owner’s, three days old at most' }])
        end

        def self.me(app)
          network = app.settings.network
          person = app.person && app.settings.people.find(app.person.id)
          tablet = network && app.settings.people.tablet(app.request.cookies[SignIn::TABLET])
          { asked: !network.nil?, person: person && one_of(person), may: may(app, person), owner: app.settings.people.owner?,
            tablet: tablet && { name: tablet[:name], people: app.settings.people.all.select(&:pin).map(&:name) } }
        end

        # Without a network whoever sits at the machine may do everything.
        def self.may(app, person)
          role = app.settings.network ? person&.role : 'owner'
          { change: role ? Roles.enough?(role, 'technician') : false, own: role == 'owner' }
        end

        def self.one_of(person) = { id: person.id, name: person.name, role: person.role, pin: person.pin }

        def self.all(app)
          people = app.settings.people
          names = people.names
          { people: people.all.map { |p| one_of(p) }, tablets: people.tablets.map { |t| t.slice(:id, :name, :made_at) },
            invites: people.invites.map { |i| { id: i[:id], role: i[:role], person: names[i[:person_id]], ends_at: i[:ends_at] } },
            roles: Roles::TABLE.map { |key, said| { key: key, **said } } }
        end
      end
    end
  end
end
