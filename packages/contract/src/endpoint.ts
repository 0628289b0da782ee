import type { Role } from '@ulvane/core/record';
import { z } from 'zod';

/** What an API token may be made for: looking, changing, and the vault. */
export const tokenScopes = ['read', 'write', 'vault'] as const;
export type TokenScope = (typeof tokenScopes)[number];

/** Who may call: anyone, or the signed-in roles named. */
export type Access = 'anyone' | readonly Role[];

export type Endpoint<
  Body extends z.ZodType = z.ZodType,
  Query extends z.ZodType = z.ZodType,
  Response extends z.ZodType = z.ZodType,
> = {
  readonly method: 'GET' | 'POST' | 'PUT' | 'DELETE';
  /** Below `/api/v1`, with `:parameters`. */
  readonly path: string;
  readonly summary: string;
  readonly access: Access;
  readonly body: Body;
  readonly query: Query;
  readonly response: Response;
  /** Schemas of path parameters, where `pathSchemas` is not what they are. */
  readonly params?: Readonly<Record<string, z.ZodType<string>>>;
  /** How large a body may be; else as `bodyLimitOf` says. */
  readonly limitBytes?: number;
  /** What an API token needs; else `read` for GET and `write` for the rest. `session`: no token does. */
  readonly token?: TokenScope | 'session';
  /** Set when the answer is a file and not JSON. */
  readonly produces?: string;
  /** Set when the body is a stream and not JSON; `body` is then empty. */
  readonly consumes?: string;
};

/** One entry of the API: the server serves it, the page calls it, OpenAPI describes it. */
export function endpoint<B extends z.ZodType, Q extends z.ZodType, R extends z.ZodType>(
  entry: Endpoint<B, Q, R>,
): Endpoint<B, Q, R> {
  return entry;
}

/**
 * Fills a path's parameters.
 * @example pathOf('/moves/:reference', { reference: 'MV-0042' }) // '/moves/MV-0042'
 */
export function pathOf(path: string, parameters: Readonly<Record<string, string>>): string {
  return path.replace(/:([a-zA-Z]+)/g, (_whole, name: string) => {
    const value = parameters[name];
    if (value === undefined) throw new RangeError(`the path ${path} needs ${name}`);
    return encodeURIComponent(value);
  });
}

const kib = 1024;

/** Whoever has not signed in has nothing long to say; what is long says so by itself. */
export function bodyLimitOf(entry: Pick<Endpoint, 'access' | 'limitBytes'>): number {
  return entry.limitBytes ?? (entry.access === 'anyone' ? 64 * kib : 256 * kib);
}

/** What an API token needs for an entry. */
export function tokenNeed(entry: Pick<Endpoint, 'method' | 'token'>): TokenScope | 'session' {
  return entry.token ?? (entry.method === 'GET' ? 'read' : 'write');
}

/** Schemas of path parameters by their names. Well-formed; whether there is such a thing is another question. */
export const pathSchemas: Readonly<Record<string, z.ZodType<string>>> = {
  reference: z.string().regex(/^[A-Za-z]{1,4}-[0-9]{1,9}$/, 'A reference is written like MV-0042.'),
  id: z.uuid('An id is a UUID, as the list that it comes from says.'),
  listId: z.uuid('A list’s id is a UUID, as the move says.'),
  key: z.string().max(60),
  stepId: z.string().max(200),
  gateId: z.string().max(60),
  kind: z.string().max(60),
};

/** For ids that are names, such as those of the catalogue. */
export const nameInPath = z.string().min(1).max(80);

export const everyone: readonly Role[] = ['technician', 'lead', 'observer'];
export const writers: readonly Role[] = ['technician', 'lead'];
export const leads: readonly Role[] = ['lead'];
