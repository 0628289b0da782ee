import type { Role } from '@ulvane/core';
import type { z } from 'zod';

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

export const everyone: readonly Role[] = ['technician', 'lead', 'observer'];
export const writers: readonly Role[] = ['technician', 'lead'];
export const leads: readonly Role[] = ['lead'];
