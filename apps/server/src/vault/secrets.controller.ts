import { controllerOf } from '../http/controller';
import { VaultService } from './vault.service';

const secondsShown = 30;

/** The vault of a move. */
export const SecretsController = controllerOf(
  { vault: VaultService },
  {
    secrets: async ({ params }, _caller, { vault }) => ({ secrets: await vault.heads(params.reference) }),

    addSecret: async ({ params, body }, { actor }, { vault }) => ({
      secrets: await vault.add(params.reference, actor, body),
    }),

    showSecret: async ({ params }, { actor, response }, { vault }) => {
      response.setHeader('Cache-Control', 'no-store');
      return {
        value: await vault.show(params.reference, params.id, actor),
        seconds: secondsShown,
      };
    },

    removeSecret: async ({ params }, { actor }, { vault }) => ({
      secrets: await vault.remove(params.reference, params.id, actor),
    }),

    sealSecrets: ({ params, body }, { actor, response }, { vault }) => {
      response.setHeader('Cache-Control', 'no-store');
      return vault.seal(params.reference, actor, body.passphrase);
    },

    unsealSecrets: async ({ params, body }, { actor }, { vault }) => ({
      secrets: await vault.unseal(params.reference, actor, body.passphrase, body.sealed),
    }),
  },
);
