import { SecretSchema } from '@ulvane/core/record';
import { z } from 'zod';
import { endpoint, everyone, writers } from '../endpoint';
import { SealedSchema, SecretHeadSchema } from '../fileShapes';
import { nothing } from './parts';

const heads = z.object({ secrets: z.array(SecretHeadSchema) });
const passphrase = z.string().min(12, 'a passphrase has 12 characters or more').max(200);

/** Licence keys, recovery keys and the like of one move. */
export const secretsApi = {
  secrets: endpoint({
    method: 'GET',
    path: '/moves/:reference/secrets',
    summary: 'Which secrets are kept of a move, without what they say',
    access: everyone,
    body: nothing,
    query: nothing,
    response: heads,
  }),
  addSecret: endpoint({
    method: 'POST',
    path: '/moves/:reference/secrets',
    summary: 'Add a secret to the vault',
    access: writers,
    body: SecretSchema,
    query: nothing,
    response: heads,
  }),
  showSecret: endpoint({
    method: 'POST',
    path: '/moves/:reference/secrets/:id/show',
    token: 'vault',
    summary: 'Show a secret; who and when goes into the log',
    access: writers,
    body: nothing,
    query: nothing,
    response: z.object({
      value: z.string(),
      /** How long the page shows it. */
      seconds: z.int().positive(),
    }),
  }),
  removeSecret: endpoint({
    method: 'POST',
    path: '/moves/:reference/secrets/:id/remove',
    summary: 'Erase a secret from the vault',
    access: writers,
    body: nothing,
    query: nothing,
    response: heads,
  }),
  sealSecrets: endpoint({
    method: 'POST',
    path: '/moves/:reference/secrets/seal',
    token: 'vault',
    summary: 'All secrets of a move, encrypted with a passphrase',
    access: writers,
    body: z.object({ passphrase }),
    query: nothing,
    response: SealedSchema,
  }),
  unsealSecrets: endpoint({
    method: 'POST',
    path: '/moves/:reference/secrets/unseal',
    summary: 'Import sealed secrets into the vault',
    access: writers,
    body: z.object({ passphrase: z.string().max(200), sealed: SealedSchema }),
    query: nothing,
    response: heads,
  }),
} as const;
