import type { Role } from '@ulvane/core/record';
import { z } from 'zod';
import type { ParamName, PathParams } from './path';

/** What an API token may be made for: looking, changing, and the vault. */
export const tokenScopes = ['read', 'write', 'vault'] as const;
export type TokenScope = (typeof tokenScopes)[number];

/** Who may call: anyone, or the signed-in roles named. */
export type Access = 'anyone' | readonly Role[];

export type Endpoint<
  Body extends z.ZodType = z.ZodType,
  Query extends z.ZodType = z.ZodType,
  Response extends z.ZodType = z.ZodType,
  Path extends string = string,
> = {
  readonly method: 'GET' | 'POST' | 'PUT' | 'DELETE';
  /** Below `/api/v1`, with `:parameters`. */
  readonly path: Path;
  readonly summary: string;
  readonly access: Access;
  readonly body: Body;
  readonly query: Query;
  readonly response: Response;
  /** Schemas of path parameters, where their name alone does not say what they are. */
  readonly params?: { readonly [Name in ParamName<Path>]?: z.ZodType<string> };
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
export function endpoint<
  B extends z.ZodType,
  Q extends z.ZodType,
  R extends z.ZodType,
  const P extends string,
>(entry: Endpoint<B, Q, R, P>): Endpoint<B, Q, R, P> {
  return entry;
}

/** What has to be given to call an entry; parameters only and always where its path has some. */
export type Given<E extends Endpoint> = {
  readonly body?: z.input<E['body']>;
  readonly query?: z.input<E['query']>;
} & ([ParamName<E['path']>] extends [never]
  ? { readonly params?: never }
  : { readonly params: PathParams<E['path']> });

/** As arguments: nothing has to be given where the path has no parameters. */
export type Giving<E extends Endpoint> = [ParamName<E['path']>] extends [never] ? [Given<E>?] : [Given<E>];

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
const byName: Readonly<Record<string, z.ZodType<string>>> = {
  reference: z.string().regex(/^[A-Za-z]{1,4}-[0-9]{1,9}$/, 'A reference is written like MV-0042.'),
  id: z.uuid('An id is a UUID, as the list that it comes from says.'),
  listId: z.uuid('A list’s id is a UUID, as the move says.'),
  key: z.string().min(1).max(60),
  stepId: z.string().min(1).max(200),
  gateId: z.string().min(1).max(60),
  kind: z.string().min(1).max(60),
};

const anyText = z.string().min(1).max(200);

/** How a parameter of an entry's path is read. */
export function parameterSchema(entry: Pick<Endpoint, 'params'>, name: string): z.ZodType<string> {
  const own = new Map<string, z.ZodType<string>>(Object.entries(entry.params ?? {}));
  return own.get(name) ?? byName[name] ?? anyText;
}

/** For ids that are names, such as those of the catalogue. */
export const nameInPath = z.string().min(1).max(80);

export const everyone: readonly Role[] = ['technician', 'lead', 'observer'];
export const writers: readonly Role[] = ['technician', 'lead'];
export const leads: readonly Role[] = ['lead'];
