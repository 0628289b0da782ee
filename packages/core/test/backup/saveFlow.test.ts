import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { copiesOf, nextOnSave, saveFlow, type CopyCheck, type DataSet } from '../../src/backup';
import { defaultHouseRules } from '../../src/rules';
import { recordFileList, setDataSets, setDestinations, type Move } from '../../src/record';
import {
  documents,
  done,
  driveB7,
  listHead,
  now,
  pictures,
  share,
  splitDisk,
  technician,
} from '../fixtures/shop';
import { compareAll, planned, saved, surveyed } from '../fixtures/story';

const flowOf = (move: Move) =>
  saveFlow({
    ...move,
    status: copiesOf(move.dataSets, move.destinations, move.copies, 'whole-disk', defaultHouseRules),
  });
const nextOf = (move: Move) =>
  nextOnSave({
    ...move,
    flow: flowOf(move),
    status: copiesOf(move.dataSets, move.destinations, move.copies, 'whole-disk', defaultHouseRules),
    nothingToSave: move.preparation.nothingToSave !== null,
  });
const sum = (all: readonly { readonly sizeBytes: number }[]) =>
  all.reduce((bytes, { sizeBytes }) => bytes + sizeBytes, 0);

describe('the flow of data to its copies', () => {
  it('loses no byte of a data set, however many there are, and has one slot for each copy', () => {
    let foldings = 0;
    let unnamed = 0;
    const sizes = fc.array(fc.integer({ min: 0, max: 2_000_000_000 }), { minLength: 1, maxLength: 16 });
    fc.assert(
      fc.property(sizes, fc.array(fc.boolean(), { minLength: 32, maxLength: 32 }), (bytes, goes) => {
        const dataSets = bytes.map((sizeBytes, index): DataSet => ({
          ...documents,
          id: `set-${index}`,
          name: `Set ${index}`,
          path: index % 3 === 0 ? '' : `/data/set-${index}`,
          sizeBytes,
          largestFileBytes: sizeBytes,
        }));
        const taken = (offset: number) =>
          dataSets.filter((_set, index) => goes[index + offset]).map(({ id }) => id);
        const destinations = [
          { ...driveB7, takes: taken(0) },
          { ...share, takes: taken(16) },
        ];
        const move = {
          ...surveyed(),
          facts: {
            ...surveyed().facts,
            disks: { value: [splitDisk], source: 'typed' as const, at: now, by: 'Ines' },
          },
          dataSets,
          destinations,
        };
        const flow = flowOf(move);
        const boxes = flow.boxes.filter(({ kind }) => kind !== 'unnamed');
        expect(sum(boxes)).toBe(sum(dataSets));
        expect(boxes.flatMap(({ dataSetIds }) => dataSetIds).toSorted()).toEqual(
          dataSets.map(({ id }) => id).toSorted(),
        );
        expect(sum(flow.slots)).toBe(
          destinations.reduce(
            (all, { takes }) => all + sum(dataSets.filter(({ id }) => takes.includes(id))),
            0,
          ),
        );
        expect(flow.planned).toBe(destinations.reduce((all, { takes }) => all + takes.length, 0));
        foldings += flow.boxes.some(({ kind }) => kind === 'small-sets') ? 1 : 0;
        unnamed += flow.boxes.some(({ kind }) => kind === 'unnamed') ? 1 : 0;
      }),
    );
    expect(foldings).toBeGreaterThan(5);
    expect(unnamed).toBeGreaterThan(10);
  });

  it('shows measured folders that no data set names as bytes that go nowhere', () => {
    const bare = flowOf(surveyed());
    const folders = surveyed().folders;
    expect(sum(bare.boxes)).toBeGreaterThanOrEqual(sum(folders));
    expect(bare.boxes.every(({ kind }) => kind === 'unnamed')).toBe(true);
    expect(bare.slots).toEqual([]);
  });

  it('marks a copy by its grade, counts those that count, and says why one does not', () => {
    const check: CopyCheck = { method: 'sample', files: 3, ofFiles: 10 };
    const at = { verifiedAt: now, verifiedBy: 'Ines' };
    const move = {
      ...saved(),
      copies: [
        {
          dataSetId: 'documents',
          destinationId: 'b-07',
          ...at,
          check: { method: 'full' as const, files: 10 },
        },
        { dataSetId: 'documents', destinationId: 'pier-store', ...at, check },
        { dataSetId: 'pictures', destinationId: 'b-07', ...at },
      ],
    };
    const flow = flowOf(move);
    const slot = (boxId: string, destinationId: string) =>
      flow.slots.find((one) => one.boxId === boxId && one.destinationId === destinationId);
    expect(slot('documents', 'b-07')).toMatchObject({ state: 'compared', counts: true });
    expect(slot('documents', 'pier-store')).toMatchObject({ state: 'sampled', counts: true });
    expect(slot('pictures', 'b-07')).toMatchObject({
      state: 'stated',
      counts: false,
      words: 'stated only: not enough',
    });
    expect(slot('pictures', 'pier-store')).toMatchObject({ state: 'planned', counts: false });
    expect([flow.counted, flow.planned]).toEqual([2, 4]);
  });

  it('shows the grade of a copy that holds for an earlier list, and does not count it', () => {
    const copy = {
      dataSetId: 'documents',
      destinationId: 'b-07',
      verifiedAt: now,
      verifiedBy: 'Ines',
      check: { method: 'full' as const, files: 10 },
    };
    const move = { ...saved(), outdatedCopies: [{ ...copy, because: 'newer-list' as const }] };
    const slotIn = (of: Move) =>
      flowOf(of).slots.find((one) => one.boxId === 'documents' && one.destinationId === 'b-07');
    expect(slotIn(move)).toMatchObject({ state: 'compared', outdated: true, counts: false });
    expect(slotIn({ ...move, copies: [copy] })).toMatchObject({ outdated: false, counts: true });
    expect(flowOf(move).counted).toBe(0);
  });
});

describe('the next thing on Save', () => {
  it('goes from bytes without a name over destinations and lists to the last comparison', () => {
    const folders = surveyed().folders;
    const bare = surveyed();
    expect(folders.length).toBeGreaterThan(0);
    expect(nextOf(bare).act.kind).toBe('name-sets');
    const unmeasured = { ...bare, folders: [], facts: {} };
    expect(nextOf(unmeasured).act.kind).toBe('add-set');
    const named = done(setDataSets(unmeasured, [documents, pictures], technician));
    expect(nextOf(named).act.kind).toBe('add-destination');
    const nowhere = done(setDestinations(named, [{ ...driveB7, takes: ['documents'] }, share], technician));
    expect(nextOf(nowhere)).toMatchObject({ act: { kind: 'pack' } });
    const all = done(setDestinations(named, [driveB7, share], technician));
    // Pictures are the larger set: their list comes first.
    expect(nextOf(all).act).toEqual({ kind: 'read', dataSetId: 'pictures' });
    const listed = ['documents', 'pictures'].reduce(
      (move, dataSetId) =>
        done(recordFileList(move, listHead({ dataSetId, sizeBytes: 1, fileCount: 1 }), technician)),
      all,
    );
    expect(nextOf(listed).act).toMatchObject({ kind: 'compare', destinationId: 'b-07' });
  });

  it('says on which partition bytes are that the survey measured no folder of', () => {
    const facts = {
      ...surveyed().facts,
      disks: { value: [splitDisk], source: 'typed' as const, at: now, by: 'Ines' },
    };
    const move = { ...surveyed(), facts, folders: [], dataSets: [documents] };
    const used = splitDisk.partitions.find(({ role }) => role === 'data');
    expect(nextOf(move)).toMatchObject({ act: { kind: 'add-set' } });
    expect(nextOf(move).detail).toBe(
      `In use on ${used?.number ?? 0} ${used?.label ?? 'data'} of disk …${(splitDisk.serial ?? '').slice(-4)}; the survey measured no folder of it.`,
    );
  });

  it('is nothing once every data set has what it needs', () => {
    const made = planned();
    const steps = made.plan?.runbook.steps ?? [];
    const compared = steps.reduce((move, step) => compareAll(move, step), made);
    const next = nextOf({ ...compared, folders: [], facts: {} });
    expect(next.act.kind).toBe('none');
    expect(next.sentence).toBe('Every data set has the copies it needs.');
  });
});
