import {
  applyDecorators,
  createParamDecorator,
  HttpCode,
  RequestMapping,
  RequestMethod,
  SetMetadata,
  type ExecutionContext,
} from '@nestjs/common';
import { parameterSchema, type Endpoint, type PathParams } from '@ulvane/contract';
import { parseWith } from '@ulvane/core/outcome';
import type { Role } from '@ulvane/core/record';
import type { Request } from 'express';
import { z } from 'zod';
import { ProblemError } from './problem';
import { refuseUnwritable } from './text';

const endpointKey = 'ulvane:endpoint';

/** Who acts, as the session or the API token says. */
export type ActorOfRequest = { readonly id: string; readonly name: string; readonly role: Role };

declare module 'express' {
  interface Request {
    /** Set by the access guard. */
    actor?: ActorOfRequest;
  }
}

/** What an endpoint's handler gets: everything already parsed by the contract's schemas. */
export type InputOf<E extends Endpoint> = {
  readonly body: z.output<E['body']>;
  readonly query: z.output<E['query']>;
  readonly params: PathParams<E['path']>;
};

/** Serves one entry of the contract: method, path and who may call it come from there. */
export function Serves(entry: Endpoint) {
  return (target: object, name: string, descriptor: PropertyDescriptor): void =>
    applyDecorators(
      RequestMapping({ path: entry.path, method: RequestMethod[entry.method] }),
      HttpCode(200),
      SetMetadata(endpointKey, entry),
    )(target, name, descriptor);
}

/** The entry that a handler serves. */
export function entryOf(context: ExecutionContext): Endpoint | undefined {
  return Reflect.getMetadata(endpointKey, context.getHandler()) as Endpoint | undefined;
}

function parsed<S extends z.ZodType>(schema: S, value: unknown): z.output<S> {
  const outcome = parseWith(schema, value);
  if (!outcome.ok) throw new ProblemError(outcome.problems);
  return outcome.value;
}

/** The request, parsed by the entry that the handler serves; what does not fit is refused with its place. */
export const Input = createParamDecorator(
  (_data: undefined, context: ExecutionContext): InputOf<Endpoint> => {
    const entry = entryOf(context);
    if (!entry) throw new RangeError('only a handler that serves an entry has an input');
    const request = context.switchToHttp().getRequest<Request>();
    const params: Record<string, string> = {};
    for (const [name, value] of Object.entries(request.params)) {
      const schema = z.object({ [name]: parameterSchema(entry, name) });
      params[name] = parsed(schema, { [name]: value })[name] ?? '';
    }
    refuseUnwritable(request.query);
    return {
      body: parsed(entry.body, request.body ?? {}),
      query: parsed(entry.query, request.query),
      params,
    };
  },
);
