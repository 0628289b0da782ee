import { controllerOf } from '../http/controller';
import { AccountsService } from './accounts.service';
import { TokensService } from './tokens.service';

export const AccountsController = controllerOf(
  { accounts: AccountsService, tokens: TokensService },
  {
    accounts: async (_input, _caller, { accounts }) => ({ accounts: await accounts.list() }),

    addAccount: ({ body }, { actor }, { accounts }) =>
      accounts.add(body.name, body.role, body.password, actor.name),

    setAccount: ({ body, params }, { actor }, { accounts }) =>
      accounts.setDisabled(params.id, body.version, body.disabled, actor.name),

    offerReset: ({ body, params }, { actor }, { accounts }) =>
      accounts.offerReset(params.id, body.version, actor.name),

    apiTokens: async (_input, { actor }, { tokens }) => ({ tokens: await tokens.list(actor) }),

    addApiToken: async ({ body }, { actor }, { tokens }) => {
      const token = await tokens.add(actor, body.name, body.scope);
      return { token, tokens: await tokens.list(actor) };
    },

    revokeApiToken: async ({ params }, { actor }, { tokens }) => {
      await tokens.revoke(actor, params.id);
      return { tokens: await tokens.list(actor) };
    },
  },
);
