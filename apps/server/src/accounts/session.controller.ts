import { Transactions } from '../database/transactions';
import { HouseService } from '../house/house.service';
import { controllerOf } from '../http/controller';
import { refuse } from '../http/problem';
import { AccountsService } from './accounts.service';
import { hashOf, refuseWeak } from './passwords';
import { SessionsService } from './sessions.service';
import { Throttle } from './throttle';

export const SessionController = controllerOf(
  {
    accounts: AccountsService,
    sessions: SessionsService,
    house: HouseService,
    throttle: Throttle,
    transactions: Transactions,
  },
  {
    session: async (_input, { request }, { accounts, sessions }) => {
      const signedIn = request.session.account ? await accounts.find(request.session.account.id) : null;
      return sessions.viewOf(signedIn && !signedIn.disabled ? signedIn : null);
    },

    signIn: async ({ body }, { request, response }, { accounts, sessions, throttle }) => {
      const counted = await sessions.countTry(request, body.name);
      const account = await accounts.check(body.name, body.password);
      if (!account) throw refuse('wrong-sign-in', 'Name and password do not fit together.');
      await throttle.forgive(counted);
      await sessions.begin(request, response, account);
      return sessions.viewOf(account);
    },

    signOut: async (_input, { request, response }, { sessions }) => {
      await sessions.end(request, response);
      return { done: true };
    },

    /** Sets the house up: the link is used, and the first lead made, together or not at all. */
    setUp: async ({ body }, { request, response }, { accounts, sessions, house, throttle, transactions }) => {
      await throttle.count([{ what: 'link', key: request.ip ?? '' }]);
      refuseWeak(body.password, body.name);
      const passwordHash = await hashOf(body.password);
      const account = await transactions.run(async (manager) => {
        await house.useSetUpToken(manager, body.token, body.organisation);
        return accounts.insert(manager, { name: body.name, role: 'lead', passwordHash }, body.name);
      });
      await sessions.begin(request, response, (await accounts.known(account.id)) ?? { ...account, seal: '' });
      return sessions.viewOf(account);
    },

    changePassword: async ({ body }, { actor, request, response }, { accounts, sessions, throttle }) => {
      const counted = [{ what: 'browser', key: `${actor.id} password` }] as const;
      await throttle.count(counted);
      const known = await accounts.changePassword(actor.id, body.present, body.next, request.sessionID);
      await throttle.forgive(counted);
      await sessions.mark(request, response, known);
      return { done: true };
    },

    resetPassword: async ({ body }, { request }, { accounts, throttle }) => {
      await throttle.count([{ what: 'link', key: request.ip ?? '' }]);
      await accounts.reset(body.token, body.password);
      return { done: true };
    },
  },
);
