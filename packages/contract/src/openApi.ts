import { problemCodes, statusOf } from '@ulvane/core/outcome';
import { z } from 'zod';
import { api } from './api';
import { parameterSchema, tokenNeed, type Endpoint } from './endpoint';
import { MoveListSchema } from './fleetShapes';
import { ProblemDetailsSchema } from './problem';
import { AccountSchema, HouseSchema, MoveViewSchema, SessionSchema, TodaySchema } from './shapes';

/** Shapes that many answers share stand once, by name. */
const named: ReadonlyMap<z.ZodType, string> = new Map<z.ZodType, string>([
  [MoveViewSchema, 'MoveView'],
  [MoveListSchema, 'MoveList'],
  [SessionSchema, 'Session'],
  [HouseSchema, 'House'],
  [TodaySchema, 'Today'],
  [AccountSchema, 'Account'],
  [ProblemDetailsSchema, 'ProblemDetails'],
]);

type JsonObject = { readonly [key: string]: unknown };

function answerOf(schema: z.ZodType): JsonObject {
  const name = named.get(schema);
  return name === undefined ? schemaOf(schema, 'output') : { $ref: `#/components/schemas/${name}` };
}

function schemaOf(schema: z.ZodType, io: 'input' | 'output'): JsonObject {
  return z.toJSONSchema(schema, { target: 'openapi-3.0', io, unrepresentable: 'any', reused: 'inline' });
}

function isEmpty(schema: z.ZodType): boolean {
  return schema instanceof z.ZodObject && Object.keys(schema.shape).length === 0;
}

function parametersOf(entry: Endpoint): JsonObject[] {
  const inPath = [...entry.path.matchAll(/:([a-zA-Z]+)/g)].map(([, name]) => ({
    name,
    in: 'path',
    required: true,
    schema: schemaOf(parameterSchema(entry, name ?? ''), 'input'),
  }));
  const shape = entry.query instanceof z.ZodObject ? entry.query.shape : {};
  const inQuery = Object.entries(shape).map(([name, schema]) => ({
    name,
    in: 'query',
    required: false,
    schema: schema instanceof z.ZodType ? schemaOf(schema, 'input') : {},
  }));
  return [...inPath, ...inQuery];
}

function operationOf(id: string, entry: Endpoint): JsonObject {
  const problem = {
    description: 'Problem details (RFC 9457)',
    content: { 'application/problem+json': { schema: answerOf(ProblemDetailsSchema) } },
  };
  const answer =
    entry.produces === undefined || entry.produces === 'application/json'
      ? { 'application/json': { schema: answerOf(entry.response) } }
      : { [entry.produces]: { schema: { type: 'string', format: 'binary' } } };
  const need = tokenNeed(entry);
  return {
    operationId: id,
    summary: entry.summary,
    description:
      entry.access === 'anyone'
        ? 'Anyone.'
        : `Roles: ${entry.access.join(', ')}. ${need === 'session' ? 'Not with an API token.' : `API tokens of scope ${need}.`}`,
    'x-roles': entry.access === 'anyone' ? [] : entry.access,
    security:
      entry.access === 'anyone' ? [] : [{ session: [] }, ...(need === 'session' ? [] : [{ token: [] }])],
    tags: [entry.path.split('/')[1] ?? 'api'],
    parameters: parametersOf(entry),
    ...(isEmpty(entry.body) && entry.consumes === undefined
      ? {}
      : {
          requestBody: {
            required: true,
            content: entry.consumes
              ? { [entry.consumes]: { schema: { type: 'string', format: 'binary' } } }
              : { 'application/json': { schema: schemaOf(entry.body, 'input') } },
          },
        }),
    responses: { '200': { description: 'Done', content: answer }, default: problem },
  };
}

/** The OpenAPI 3.0 description of the whole API, generated from the contract. */
export function openApiDocument(): JsonObject {
  const paths: Record<string, Record<string, JsonObject>> = {};
  for (const [id, entry] of Object.entries(api)) {
    const path = `/api/v1${entry.path.replace(/:([a-zA-Z]+)/g, '{$1}')}`;
    paths[path] = { ...paths[path], [entry.method.toLowerCase()]: operationOf(id, entry) };
  }
  return {
    openapi: '3.0.3',
    info: {
      title: 'Ulvane',
      version: '1',
      description:
        'Moves of devices off systems without support: survey, decide, save, prepare, cross, settle, hand over.',
    },
    paths,
    'x-problem-codes': Object.fromEntries(problemCodes.map((code) => [code, statusOf(code)])),
    components: {
      securitySchemes: {
        session: {
          type: 'apiKey',
          in: 'cookie',
          name: 'ulvane',
          description: 'Set by POST /api/v1/session.',
        },
        token: {
          type: 'http',
          scheme: 'bearer',
          description: 'An API token, made under House by whoever uses it.',
        },
      },
      schemas: Object.fromEntries([...named].map(([schema, name]) => [name, schemaOf(schema, 'output')])),
    },
  };
}
