import type { Role } from '@ulvane/core/record';
import connectPgSimple from 'connect-pg-simple';
import type { RequestHandler } from 'express';
import session from 'express-session';
import type { Pool } from 'pg';

declare module 'express-session' {
  interface SessionData {
    account: { id: string; name: string; role: Role };
  }
}

const twelveHours = 12 * 60 * 60 * 1000;

/** A session's end moves with its use, but not with every request: each move is a write that the answer waits for. */
const touchEveryMs = 5 * 60 * 1000;
const rememberedSessions = 10_000;

function seldomTouching(Store: ReturnType<typeof connectPgSimple>): ReturnType<typeof connectPgSimple> {
  const touchedAt = new Map<string, number>();
  return class extends Store {
    override touch(sid: string, data: session.SessionData, done?: () => void): void {
      const now = Date.now();
      if (now - (touchedAt.get(sid) ?? 0) < touchEveryMs) return done?.();
      if (touchedAt.size >= rememberedSessions) touchedAt.clear();
      touchedAt.set(sid, now);
      super.touch(sid, data, done);
    }
  };
}

/**
 * Sessions are in PostgreSQL, so that several servers share them; the cookie carries an id only.
 * @param pool the house's one pool
 */
export function sessions(
  pool: Pool,
  secret: string,
): { readonly middleware: RequestHandler; readonly close: () => Promise<void> } {
  const Store = seldomTouching(connectPgSimple(session));
  const store = new Store({
    pool,
    tableName: 'session',
    createTableIfMissing: false,
    pruneSessionInterval: 900,
    // What the store cannot do now, it does later; who waits for it is told by the request.
    errorLog: () => undefined,
  });
  const withCookie = session({
    store,
    secret,
    name: 'ulvane',
    resave: false,
    saveUninitialized: false,
    rolling: true,
    cookie: { httpOnly: true, sameSite: 'strict', secure: 'auto', maxAge: twelveHours },
  });
  return {
    // A program with a token has no session, and makes none; health is told without asking the database who asks.
    middleware: (request, response, next) =>
      request.headers.authorization !== undefined || request.path === '/health'
        ? next()
        : withCookie(request, response, next),
    close: async () => store.close(),
  };
}
