import { roles } from '@ulvane/core/record';
import { z } from 'zod';
import { endpoint, everyone, leads, tokenScopes } from '../endpoint';
import { AccountSchema, ApiTokenSchema, HealthSchema, SessionSchema, version } from '../shapes';
import { done, nothing } from './parts';

// Long names and controls are no names; how names are compared is the server's `nameKeyOf`.
const name = z
  .string()
  .trim()
  .min(2)
  .max(60)
  .regex(/^\P{C}+$/u, 'a name has no control characters');
const passwordCharacters = 10;
const password = z
  .string()
  .min(passwordCharacters, `a password has ${passwordCharacters} characters or more`)
  .max(200);
const tokens = z.object({ tokens: z.array(ApiTokenSchema) });

/** Who is there: health, session, accounts. */
export const peopleApi = {
  health: endpoint({
    method: 'GET',
    path: '/health',
    summary: 'State of database and migrations',
    access: 'anyone',
    body: nothing,
    query: nothing,
    response: HealthSchema,
  }),

  session: endpoint({
    method: 'GET',
    path: '/session',
    summary: 'Who is signed in, and where',
    access: 'anyone',
    body: nothing,
    query: nothing,
    response: SessionSchema,
  }),

  signIn: endpoint({
    method: 'POST',
    path: '/session',
    summary: 'Sign in',
    access: 'anyone',
    body: z.object({ name: z.string().max(200), password: z.string().max(200) }),
    query: nothing,
    response: SessionSchema,
  }),

  signOut: endpoint({
    method: 'DELETE',
    path: '/session',
    summary: 'Sign out',
    token: 'session',
    access: everyone,
    body: nothing,
    query: nothing,
    response: done,
  }),

  setUp: endpoint({
    method: 'POST',
    path: '/set-up',
    summary: 'Set the organisation up, once, with the one-time link',
    access: 'anyone',
    body: z.object({ token: z.string().max(200), organisation: name, name, password }),
    query: nothing,
    response: SessionSchema,
  }),

  accounts: endpoint({
    method: 'GET',
    path: '/accounts',
    summary: 'Accounts',
    access: leads,
    body: nothing,
    query: nothing,
    response: z.object({ accounts: z.array(AccountSchema) }),
    token: 'session',
  }),

  addAccount: endpoint({
    method: 'POST',
    path: '/accounts',
    summary: 'Add an account',
    access: leads,
    body: z.object({ name, role: z.enum(roles), password }),
    query: nothing,
    response: AccountSchema,
    token: 'session',
  }),

  setAccount: endpoint({
    method: 'PUT',
    path: '/accounts/:id',
    summary: 'Disable an account or enable it again',
    access: leads,
    body: z.object({ version, disabled: z.boolean() }),
    query: nothing,
    response: AccountSchema,
    token: 'session',
  }),

  changePassword: endpoint({
    method: 'POST',
    path: '/password',
    summary: 'Change one’s own password; all other sessions end',
    access: everyone,
    body: z.object({ present: z.string().max(200), next: password }),
    query: nothing,
    response: done,
    token: 'session',
  }),

  offerReset: endpoint({
    method: 'POST',
    path: '/accounts/:id/reset',
    summary: 'Make a one-time link with which somebody sets a new password',
    access: leads,
    body: z.object({ version }),
    query: nothing,
    response: z.object({ path: z.string(), until: z.string() }),
    token: 'session',
  }),

  resetPassword: endpoint({
    method: 'POST',
    path: '/password/reset',
    summary: 'Set a new password with a one-time link; all sessions of the account end',
    access: 'anyone',
    body: z.object({ token: z.string().max(200), password }),
    query: nothing,
    response: done,
  }),

  apiTokens: endpoint({
    method: 'GET',
    path: '/tokens',
    summary: 'One’s own API tokens; for leads everybody’s',
    access: everyone,
    body: nothing,
    query: nothing,
    response: tokens,
    token: 'session',
  }),

  addApiToken: endpoint({
    method: 'POST',
    path: '/tokens',
    summary: 'Make an API token; it is shown this once',
    access: everyone,
    body: z.object({ name, scope: z.enum(tokenScopes) }),
    query: nothing,
    response: tokens.extend({ token: z.string() }),
    token: 'session',
  }),

  revokeApiToken: endpoint({
    method: 'POST',
    path: '/tokens/:id/revoke',
    summary: 'Revoke an API token',
    access: everyone,
    body: nothing,
    query: nothing,
    response: tokens,
    token: 'session',
  }),

  metrics: endpoint({
    method: 'GET',
    path: '/metrics',
    summary: 'Figures of this server: requests, latencies, connections, event loop, queues',
    access: leads,
    body: nothing,
    query: nothing,
    response: z.unknown(),
    produces: 'text/plain',
  }),
} as const;
