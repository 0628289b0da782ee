import { api, ProblemDetailsSchema, type MoveView } from '@ulvane/contract';
import { bufferSource, encodeCapsule, undoCapsule } from '@ulvane/core/disk';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { TestHouse, type Visitor } from './house';

let house: TestHouse;
let technician: Visitor;
let view: MoveView;

beforeAll(async () => {
  house = await TestHouse.open('demo');
  technician = await house.signedIn('technician');
  const { rows } = await technician.call(api.moves, { query: '?limit=100' });
  for (const { reference } of rows) {
    view = await technician.call(api.move, { params: { reference } });
    if (view.move.diskPlan?.work.kind === 'convert' && !view.move.handover.signedOff) return;
  }
  throw new Error('the demo has no move with a conversion planned');
});
afterAll(() => house.close());

/** A capsule of one sector for the disk of the move. */
function capsule(sectorCount: number) {
  const one = bufferSource(new Uint8Array(512).fill(3), 512);
  const source = { ...one, sectorCount, read: () => new Uint8Array(512).fill(3) };
  const kept = undoCapsule(source, [{ startLba: 0, bytes: new Uint8Array(512), about: 'first sector' }]);
  if (!kept.ok) throw new Error();
  return encodeCapsule(kept.value, null);
}

const disk = () => {
  const found = view.move.facts.disks?.value.find(({ name }) => name === view.move.diskPlan?.disk);
  if (!found) throw new Error('the disk is gone');
  return found;
};
const body = (undo: unknown) => ({
  version: view.version,
  disk: disk().name,
  target: 'gpt' as const,
  remembered: { partitions: [] },
  undo,
});
const params = () => ({ reference: view.move.reference });

describe('the capsule of a disk', () => {
  it('is refused when its bytes are not those of its checksum, and when it is of another disk', async () => {
    const good = capsule(disk().sectorCount);
    const [first] = good.writes;
    const edited = { ...good, writes: [{ ...first, data: Buffer.alloc(512, 4).toString('base64') }] };
    const damaged = await technician.at(api.keepCapsule, { params: params(), body: body(edited) });
    expect(damaged.status).toBe(422);
    expect(ProblemDetailsSchema.parse(damaged.body).problems[0]?.code).toBe('writes-damaged');
    const other = await technician.at(api.keepCapsule, { params: params(), body: body(capsule(4096)) });
    expect(other.status).toBe(422);
    expect(ProblemDetailsSchema.parse(other.body).problems[0]?.code).toBe('another-disk');
  });

  it('is kept with the move, goes out with it, and comes in again with it', async () => {
    view = await technician.call(api.keepCapsule, {
      params: params(),
      body: body(capsule(disk().sectorCount)),
    });
    expect(view.move.capsules).toHaveLength(1);
    const document = await technician.call(api.exportMove, { params: params() });
    expect(document.move.capsules[0]?.undo.writes[0]?.data).toBe(Buffer.alloc(512, 3).toString('base64'));
    const second = await TestHouse.open('demo');
    try {
      const there = await second.signedIn('technician');
      // The second house has the demo's moves, too: the imported one is another with its own reference.
      const { id: _id, ...rest } = document.move;
      const copy = {
        ...document,
        move: { ...rest, id: '00000000-0000-4000-8000-000000000001', reference: 'MV-0999' },
      };
      const taken = await there.call(api.importMove, { body: copy });
      expect(taken.move.capsules).toEqual(view.move.capsules);
    } finally {
      await second.close();
    }
  });
});

describe('work on a disk', () => {
  it('is refused as problem details past its guards, and taken out', async () => {
    const wipe = await technician.at(api.planDisk, {
      params: params(),
      body: {
        version: view.version,
        disk: disk().name,
        work: { kind: 'layout', goal: { kind: 'wipe', scheme: 'gpt', installer: [] } },
      },
    });
    expect(wipe.status).toBe(422);
    expect(ProblemDetailsSchema.parse(wipe.body).problems.map(({ code }) => code)).toContain('promised');
    const other = await technician.at(api.planDisk, {
      params: params(),
      body: {
        version: view.version,
        disk: 'sdz',
        work: { kind: 'layout', goal: { kind: 'room', sizeBytes: 1_000_000_000 } },
      },
    });
    expect(ProblemDetailsSchema.parse(other.body).problems[0]?.code).toBe('no-such-disk');
    view = await technician.call(api.planDisk, {
      params: params(),
      body: { version: view.version, disk: disk().name, work: null },
    });
    expect(view.move.diskPlan).toBeNull();
  });
});
