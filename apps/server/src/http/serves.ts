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
import { ProblemError, refuse } from './problem';
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

/** A handler: its input first, or who acts where it needs none; its answer is what the contract says. */
type HandlerOf<E extends Endpoint> = (
  first: InputOf<E> & ActorOfRequest,
  ...rest: never[]
) => Answer<z.input<E['response']>> | Promise<Answer<z.input<E['response']>>>;

/** What is sent is only read: nobody minds whether its lists may be changed. */
type Answer<T> = T extends readonly (infer Item)[]
  ? readonly Answer<Item>[]
  : T extends object
    ? { readonly [Key in keyof T]: Answer<T[Key]> }
    : T;

/**
 * Serves one entry of the contract: method, path and who may call it come from there. A handler that takes the input
 * of another entry, or answers something else than the contract says, does not compile.
 */
export function Serves<E extends Endpoint>(entry: E) {
  return <H extends HandlerOf<E>>(
    target: object,
    name: string,
    descriptor: TypedPropertyDescriptor<H>,
  ): void =>
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

/** Who acts; the access guard has made sure that there is somebody. */
export const Actor = createParamDecorator((_data: unknown, context: ExecutionContext): ActorOfRequest => {
  const { actor } = context.switchToHttp().getRequest<Request>();
  if (!actor) throw refuse('not-signed-in', 'Sign in first.');
  return actor;
});
