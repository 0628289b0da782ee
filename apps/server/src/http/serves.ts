import {
  applyDecorators,
  createParamDecorator,
  HttpCode,
  RequestMapping,
  RequestMethod,
  SetMetadata,
  type ExecutionContext,
} from '@nestjs/common';
import { pathSchemas, type Endpoint } from '@ulvane/contract';
import { parseWith } from '@ulvane/core/outcome';
import type { Role } from '@ulvane/core/record';
import type { Request } from 'express';
import { z } from 'zod';
import { ProblemError, refuse } from './problem';
import { refuseUnwritable } from './text';

export const endpointKey = 'ulvane:endpoint';

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
  readonly params: Readonly<Record<string, string>>;
};

/** Serves one entry of the contract: method, path and who may call it come from there. */
export function Serves(entry: Endpoint): MethodDecorator {
  return applyDecorators(
    RequestMapping({ path: entry.path, method: RequestMethod[entry.method] }),
    HttpCode(200),
    SetMetadata(endpointKey, entry),
  );
}

function parsed<S extends z.ZodType>(schema: S, value: unknown): z.output<S> {
  const outcome = parseWith(schema, value);
  if (!outcome.ok) throw new ProblemError(422, outcome.problems);
  return outcome.value;
}

const anyText = z.string().max(200);

/** The request, parsed; what does not fit is refused with its place. */
export const Input = createParamDecorator((entry: Endpoint, context: ExecutionContext): InputOf<Endpoint> => {
  const request = context.switchToHttp().getRequest<Request>();
  const params: Record<string, string> = {};
  for (const [name, value] of Object.entries(request.params)) {
    const schema = entry.params?.[name] ?? pathSchemas[name] ?? anyText;
    params[name] = parsed(z.object({ [name]: schema }), { [name]: value })[name] ?? '';
  }
  refuseUnwritable(request.query);
  return { body: parsed(entry.body, request.body ?? {}), query: parsed(entry.query, request.query), params };
});

/** Who acts; the access guard has made sure that there is somebody. */
export const Actor = createParamDecorator((_data: unknown, context: ExecutionContext): ActorOfRequest => {
  const { actor } = context.switchToHttp().getRequest<Request>();
  if (!actor) throw refuse(401, 'not-signed-in', 'Sign in first.');
  return actor;
});
