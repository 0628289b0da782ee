import { api, ProblemDetailsSchema, pathOf, type Endpoint } from '@ulvane/contract';
import { z } from 'zod';
import { unless, type Drill } from './drill';
import { loopHeldUpMs } from './figures';
import { pick, randomFrom } from './random';
import { awkward, operationsOf, valueFor, type Operation } from './requests';
import type { Person } from './world';

/** These end the visit that asks, or are throttled so that nothing else is learned. */
const leftOut = new Set([
  'signOut',
  'signIn',
  'changePassword',
  'setUp',
  'resetPassword',
  'setAccount',
  'offerReset',
]);

const VersionSchema = z.looseObject({ version: z.int() });

function fill(operation: Operation, references: readonly string[], random: () => number): string {
  const query = new URLSearchParams();
  let { path } = operation;
  for (const { name, in: where, schema } of operation.parameters) {
    const value =
      name === 'reference' && random() < 0.85 ? pick(random, references) : valueFor(schema, random, 0.15);
    const text =
      typeof value === 'string' ? value.replace(/\p{Surrogate}/gu, '\ufffd') : JSON.stringify(value);
    if (where === 'path') path = path.replace(`{${name}}`, encodeURIComponent(text === '' ? '-' : text));
    else if (random() < 0.7) query.set(name, text);
  }
  // Now and then an address that no program writes.
  if (random() < 0.01) path = `${path}%`;
  const search = query.toString();
  return search === '' ? path : `${path}?${search}`;
}

async function bodyFor(
  operation: Operation,
  person: Person,
  path: string,
  random: () => number,
): Promise<unknown> {
  if (operation.body === undefined) return {};
  if (random() < 0.02) return pick(random, awkward);
  const body = valueFor(operation.body, random, 0.06);
  const [, reference] = /^\/moves\/(MV-\d+)/.exec(path) ?? [];
  // With the right version a change gets as far as it can.
  if (reference && random() < 0.8 && VersionSchema.safeParse(body).success)
    return { ...VersionSchema.parse(body), version: await person.version(reference) };
  return body;
}

/** Every list and every move, as the contract says that they are. */
async function unreadable(person: Person, references: readonly string[]): Promise<string[]> {
  const faults: string[] = [];
  const look = async (name: string, entry: Endpoint, params: Record<string, string>) => {
    const { status, body } = await person.ask('GET', pathOf(entry.path, params));
    const parsed = status === 200 ? entry.response.safeParse(body) : undefined;
    // A move without a route, or with one that cannot be carried out, has no runbook and says why.
    const refused = name === 'runbook' && status === 422 && ProblemDetailsSchema.safeParse(body).success;
    if (!refused && !parsed?.success)
      faults.push(
        `${name} ${Object.values(params).join(' ')}: ${status} ${parsed?.error?.issues[0]?.message ?? ''} ${parsed?.error?.issues[0]?.path.join('/') ?? ''}`,
      );
  };
  const entries: readonly (readonly [string, Endpoint])[] = Object.entries(api);
  for (const [name, entry] of entries) {
    if (entry.method !== 'GET' || (entry.produces !== undefined && entry.produces !== 'application/json'))
      continue;
    const names = [...entry.path.matchAll(/:(\w+)/g)].map(([, parameter]) => parameter);
    if (name === 'fleetGroups') continue;
    if (names.length === 0) await look(name, entry, {});
    else if (names.length === 1 && names[0] === 'reference')
      for (const reference of references) await look(name, entry, { reference });
  }
  return faults;
}

export const fuzzDrill: Drill = {
  name: 'requests made from the API’s own description',
  run: async (world, size) => {
    const server = await world.start();
    const person = await world.signIn(server);
    const response = await fetch(`${person.address}/api/openapi.json`, {
      headers: { cookie: person.cookie },
    });
    if (!response.ok) throw new Error(`the API’s description: ${response.status} ${await response.text()}`);
    const operations = operationsOf(await response.json()).filter(({ id }) => !leftOut.has(id));
    const references = await person.references(12);
    const seed = 20260302;
    const random = randomFrom(seed);
    const count = size === 'whole' ? 5000 : 500;
    const statuses = new Map<number, number>();
    const faults: string[] = [];
    await loopHeldUpMs(person);
    let longest = 0;
    for (let made = 0; made < count; made += 1) {
      const operation = pick(random, operations);
      const path = fill(operation, references, random);
      const body = operation.method === 'GET' ? undefined : await bodyFor(operation, person, path, random);
      const answer = await person.ask(operation.method, path, body);
      statuses.set(answer.status, (statuses.get(answer.status) ?? 0) + 1);
      const described = answer.status < 400 || ProblemDetailsSchema.safeParse(answer.body).success;
      if (answer.status >= 500 || answer.status === 0 || !described)
        faults.push(
          `${operation.method} ${path.slice(0, 160)} ${JSON.stringify(body)?.slice(0, 200) ?? ''}: ${answer.status} ${JSON.stringify(answer.body).slice(0, 160)}`,
        );
      if (made % 100 === 99) longest = Math.max(longest, await loopHeldUpMs(person));
    }
    const all = await person.references(200);
    faults.push(...(await unreadable(person, all)));
    const changed = statuses.get(200) ?? 0;
    return {
      figures: `${count} requests, seed ${seed}, over ${operations.length} operations (${[...statuses]
        .sort(([a], [b]) => a - b)
        .map(([status, n]) => `${status}: ${n}`)
        .join(', ')}); ${all.length} moves read afterwards; loop held up ${longest.toFixed(0)} ms`,
      faults: [
        ...faults.slice(0, 8),
        ...unless(faults.length <= 8, `and ${faults.length - 8} more`),
        ...unless(changed > count / 20, `only ${changed} requests were let through: the drill shows nothing`),
      ],
    };
  },
};
