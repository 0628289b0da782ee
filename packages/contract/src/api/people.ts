import { roles } from '@ulvane/core';
import { z } from 'zod';
import { endpoint, everyone, leads } from '../endpoint';
import { AccountSchema, HealthSchema, SessionSchema } from '../shapes';
import { done, nothing } from './parts';

const name = z.string().trim().min(2).max(60);
const password = z.string().min(10, 'a password has 10 characters or more').max(200);

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
    body: z.object({ name: z.string().max(60), password: z.string().max(200) }),
    query: nothing,
    response: SessionSchema,
  }),

  signOut: endpoint({
    method: 'DELETE',
    path: '/session',
    summary: 'Sign out',
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
  }),

  addAccount: endpoint({
    method: 'POST',
    path: '/accounts',
    summary: 'Add an account',
    access: leads,
    body: z.object({ name, role: z.enum(roles), password }),
    query: nothing,
    response: AccountSchema,
  }),

  setAccount: endpoint({
    method: 'PUT',
    path: '/accounts/:id',
    summary: 'Disable an account or let it in again',
    access: leads,
    body: z.object({ disabled: z.boolean() }),
    query: nothing,
    response: AccountSchema,
  }),
} as const;
