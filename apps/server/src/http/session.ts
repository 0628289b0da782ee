import type { Role } from '@ulvane/core';
import connectPgSimple from 'connect-pg-simple';
import type { RequestHandler } from 'express';
import session from 'express-session';
import { Pool } from 'pg';

declare module 'express-session' {
  interface SessionData {
    account: { id: string; name: string; role: Role };
  }
}

const twelveHours = 12 * 60 * 60 * 1000;

/** Sessions live in PostgreSQL, so that several servers share them; the cookie carries an id only. */
export function sessions(
  databaseUrl: string,
  secret: string,
): { readonly middleware: RequestHandler; readonly close: () => Promise<void> } {
  const Store = connectPgSimple(session);
  const pool = new Pool({ connectionString: databaseUrl, max: 4 });
  const store = new Store({
    pool,
    tableName: 'session',
    createTableIfMissing: false,
    pruneSessionInterval: 900,
  });
  return {
    middleware: session({
      store,
      secret,
      name: 'ulvane',
      resave: false,
      saveUninitialized: false,
      rolling: true,
      cookie: { httpOnly: true, sameSite: 'strict', secure: 'auto', maxAge: twelveHours },
    }),
    close: async () => {
      await store.close();
      await pool.end();
    },
  };
}
