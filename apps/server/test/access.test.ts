import { api, ProblemDetailsSchema, type Endpoint } from '@ulvane/contract';
import { roles, type Role } from '@ulvane/core/record';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { TestHouse, type Visitor } from './house';

const entries: readonly (readonly [string, Endpoint])[] = Object.entries(api);
/** Values for every path parameter; the move exists, so that what is refused is refused for the role. */
const params = {
  reference: 'MV-0009',
  key: 'cores',
  stepId: 'write-stick',
  gateId: 'power',
  number: '1',
  kind: 'families',
  id: '00000000-0000-4000-8000-000000000000',
  listId: '00000000-0000-4000-8000-000000000000',
};

let house: TestHouse;
const visitors = new Map<Role, Visitor>();

beforeAll(async () => {
  house = await TestHouse.open('demo');
  for (const role of roles) visitors.set(role, await house.signedIn(role));
});
afterAll(() => house.close());

describe('without signing in', () => {
  it.each(entries.filter(([, { access }]) => access !== 'anyone'))('%s answers 401', async (_id, entry) => {
    expect((await house.visitor().at(entry, { params })).status).toBe(401);
  });

  it.each(
    entries.filter(
      ([id, { access }]) => access === 'anyone' && !['signIn', 'setUp', 'resetPassword'].includes(id),
    ),
  )('%s answers', async (_id, entry) => {
    expect((await house.visitor().at(entry)).status).toBe(200);
  });
});

describe.each(roles)('as %s', (role) => {
  // Signing out would end the visit that the other tests share.
  const asked = entries.filter(([id, { access }]) => access !== 'anyone' && id !== 'signOut');
  const isLetIn = ({ access }: Endpoint) => access !== 'anyone' && access.includes(role);

  it.each(asked.filter(([, entry]) => isLetIn(entry)))('%s is let in', async (_id, entry) => {
    const { status } = (await visitors.get(role)?.at(entry, { params })) ?? { status: 0 };
    // Let in, an empty body is refused for what it lacks (422), and an unknown account is not found.
    expect([200, 404, 409, 422]).toContain(status);
  });

  it.each(asked.filter(([, entry]) => !isLetIn(entry)))(
    '%s answers 403 with problem details',
    async (_id, entry) => {
      const answer = await visitors.get(role)?.at(entry, { params });
      expect(answer?.status).toBe(403);
      expect(answer?.headers.get('content-type')).toContain('application/problem+json');
      expect(ProblemDetailsSchema.parse(answer?.body).status).toBe(403);
    },
  );
});

describe('what observers cannot do', () => {
  it('leaves no trace: nothing in the database changes', async () => {
    const count = async () =>
      (
        await house.sql(
          'SELECT (SELECT count(*) FROM event) AS events, (SELECT sum(version) FROM move) AS versions',
        )
      )[0];
    const before = await count();
    for (const [, entry] of entries)
      if (entry.method !== 'GET' && entry.access !== 'anyone' && !entry.path.startsWith('/session'))
        await visitors.get('observer')?.at(entry, { params, body: { version: 1 } });
    expect(await count()).toEqual(before);
  });
});
