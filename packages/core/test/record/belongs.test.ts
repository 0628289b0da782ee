import { describe, expect, it } from 'vitest';
import { isSameDevice, type Destination } from '../../src/backup';
import { differencesOf, reconcile } from '../../src/manifest';
import {
  overruleGate,
  plan,
  prepare,
  recordCheck,
  recordFileList,
  runbookInput,
  setDataSets,
  setDestinations,
  signStep,
  tickCopy,
  type Move,
} from '../../src/record';
import { buildRunbook } from '../../src/runbook';
import { listOf } from '../fixtures/fileList';
import { documents, done, driveB7, lead, listHead, pictures, share, technician } from '../fixtures/shop';
import { gateOf, later, planned, ready, saved, signThrough } from '../fixtures/story';

const digest = (letter: string) => letter.repeat(64);
const list = (move: Move, letter?: string, dataSetId = 'documents') =>
  done(
    recordFileList(
      move,
      listHead({ dataSetId, ...(letter === undefined ? {} : { contentDigest: digest(letter) }) }),
      technician,
    ),
  );
const compared = (move: Move, destinationId = 'b-07') =>
  done(
    recordCheck(
      move,
      { dataSetId: 'documents', destinationId, check: { method: 'full', files: 10 }, count: 0, files: [] },
      technician,
    ),
  );

describe('a rule for what systems make by themselves', () => {
  it('excuses what was added, never what is missing or changed', () => {
    const before = listOf({ 'Ada/.cache/p/1': 'x', 'Ada/tmp/letter.part': 'y', 'Ada/.cache/p/2': 'z' });
    const after = listOf({ 'Ada/.cache/p/1': 'other', 'Ada/.cache/p/3': 'new', 'Ada/.cache/p/4': 'z' });
    const found = [...differencesOf(reconcile(before, after), before, after, ['**/notes.*'])];
    expect(found.map(({ kind, pathBefore, noise }) => [kind, pathBefore, noise !== null])).toEqual([
      ['changed', 'Ada/.cache/p/1', false],
      ['missing', 'Ada/tmp/letter.part', false],
      ['renamed', 'Ada/.cache/p/2', false],
      ['added', null, true],
    ]);
  });
});

describe('a verified copy belongs to', () => {
  it('the list that it was compared with: a newer one of the same number and bytes asks again', () => {
    const first = compared(list(saved(), 'a'));
    expect(first.copies).toHaveLength(1);
    const other = recordFileList(
      first,
      listHead({ dataSetId: 'documents', contentDigest: digest('b') }),
      technician,
    );
    expect(done(other).copies).toEqual([]);
    expect(other.ok && other.value.sentence).toContain('compared with an earlier list');
    // It is kept to be seen, by whom and when it was compared, and counts nowhere until it is compared again.
    expect(done(other).outdatedCopies).toEqual([{ ...first.copies[0], because: 'newer-list' }]);
    expect(compared(done(other)).outdatedCopies).toEqual([]);
    expect(
      done(setDestinations(done(other), [{ ...driveB7, takes: [] }, share], technician)).outdatedCopies,
    ).toEqual([]);
    // The very same content, by path, size and checksum of every file, is no change.
    expect(list(first, 'a').copies).toHaveLength(1);
    // Without checksums nobody can say that it is the same.
    expect(list(compared(list(saved())), undefined).copies).toEqual([]);
  });

  it('the folder of the data: another one of the same size is another content', () => {
    const move = compared(list(saved(), 'a'));
    const changed = setDataSets(
      move,
      move.dataSets.map((one) => (one.id === 'documents' ? { ...one, path: '/media/data/Old' } : one)),
      technician,
    );
    expect(done(changed).copies).toEqual([]);
    expect(done(changed).fileLists).toEqual([]);
    expect(done(changed).outdatedCopies.map(({ because }) => because)).toEqual(['data-changed']);
    expect(changed.ok && changed.value.sentence).toContain('1 verified copy no longer counts');
    // Another name for it is no other content.
    const renamed = move.dataSets.map((one) => ({ ...one, name: `${one.name} of the pier` }));
    expect(done(setDataSets(move, renamed, technician)).copies).toHaveLength(1);
  });

  it('only of its own data set: another one’s copies stay, and the log says what goes', () => {
    const both = [documents, pictures].reduce(
      (move, { id }) =>
        done(
          recordCheck(
            move,
            {
              dataSetId: id,
              destinationId: 'b-07',
              check: { method: 'full', files: 10 },
              count: 0,
              files: [],
            },
            technician,
          ),
        ),
      list(list(saved(), 'a'), 'p', 'pictures'),
    );
    const newer = recordFileList(
      both,
      listHead({ dataSetId: 'documents', contentDigest: digest('b') }),
      technician,
    );
    expect(done(newer).copies.map(({ dataSetId }) => dataSetId)).toEqual(['pictures']);
    expect(newer.ok && newer.value.sentence).toContain('they were compared with an earlier list');
    const first = recordFileList(saved(), listHead({ dataSetId: 'documents' }), technician);
    // No copy was there: none is said to count no longer.
    expect(first.ok && first.value.sentence).not.toContain('no longer count');
  });

  it('the drive by its serial: another drive under the same name holds nothing yet', () => {
    const move = compared(list(saved(), 'a'));
    const drives = (serial: string): Destination[] => [{ ...driveB7, serial }, share];
    const replaced = setDestinations(move, drives('OSB-9999X'), technician);
    expect(done(replaced).copies).toEqual([]);
    expect(replaced.ok && replaced.value.sentence).toContain('B-07 is another drive now');
    // The same serial, read off with blanks and in small letters.
    expect(done(setDestinations(move, drives('osb 7731c'), technician)).copies).toHaveLength(1);
    // What was outdated on the old drive is not there any more either; on a drive that stays it is.
    const outdated = list(move, 'b');
    expect(outdated.outdatedCopies).toHaveLength(1);
    expect(done(setDestinations(outdated, drives('OSB-9999X'), technician)).outdatedCopies).toEqual([]);
    expect(done(setDestinations(outdated, drives('OSB-7731C'), technician)).outdatedCopies).toHaveLength(1);
  });
});

describe('a copy that was compared and differs', () => {
  const differs = () =>
    done(
      recordCheck(
        ready(planned()),
        {
          dataSetId: 'documents',
          destinationId: 'b-07',
          check: { method: 'full', files: 10 },
          count: 2,
          files: [{ kind: 'changed', path: 'a.txt' }],
        },
        technician,
      ),
    );

  it('is not made good by a tick or a signature, only by another comparison', () => {
    const tick = tickCopy(
      differs(),
      { dataSetId: 'documents', destinationId: 'b-07', verified: true },
      technician,
    );
    expect(!tick.ok && tick.problems[0]?.code).toBe('copy-differs');
    const signed = signThrough(differs(), 'verify');
    const verify = signStep(signed, 'verify:b-07', { actualMinutes: null, note: '' }, technician);
    expect(!verify.ok && verify.problems[0]?.sentence).toContain(
      'The last comparison found files that differ',
    );
    expect(compared(differs()).copies).toHaveLength(1);
  });
});

describe('an overrule', () => {
  const reason = 'Agreed with the pier master on the phone.';

  it('covers what was overruled, not what closes the gate later', () => {
    let move = done(
      tickCopy(planned(), { dataSetId: 'documents', destinationId: 'b-07', verified: true }, technician),
    );
    move = done(overruleGate(move, 'copies-verified', reason, lead));
    expect(gateOf(move, 'copies-verified')?.state).toBe('overruled');
    // Pictures get their copies: fewer reasons than before, so it still covers.
    const fewer = done(
      tickCopy(move, { dataSetId: 'pictures', destinationId: 'b-07', verified: true }, technician),
    );
    const state = (of: Move) => gateOf(of, 'copies-verified')?.state;
    // The copy that was there differs now: nobody has overruled that.
    const worse = done(
      recordCheck(
        fewer,
        {
          dataSetId: 'documents',
          destinationId: 'b-07',
          check: { method: 'full', files: 10 },
          count: 3,
          files: [{ kind: 'missing', path: 'tax.pdf' }],
        },
        technician,
      ),
    );
    expect(state(worse)).toBe('closed');
    expect(gateOf(worse, 'copies-verified')?.sentence).toContain('tax.pdf');
  });

  it('covers the rest while steps above the Line are signed one by one', () => {
    let move = ready(planned());
    move = done(overruleGate(move, 'steps-above-signed', reason, lead));
    expect(gateOf(move, 'steps-above-signed')?.state).toBe('overruled');
    expect(gateOf(move, 'steps-above-signed')?.reasons.length).toBeGreaterThan(2);
  });

  it('ends with the plan that it was given for', () => {
    const move = done(overruleGate(planned(), 'power', reason, lead));
    expect(gateOf(move, 'power')?.state).toBe('overruled');
    const again = done(plan(move, later(30)));
    expect(gateOf(again, 'power')?.state).toBe('closed');
  });
});

describe('the restore', () => {
  const stick: Destination = {
    ...driveB7,
    id: 's-11',
    name: 'S-11',
    kind: 'stick',
    serial: 'KST-11',
    medium: 'stick',
    link: 'usb2',
    takes: ['documents'],
  };
  const restores = (destinations: readonly Destination[]) => {
    const move = done(setDestinations(saved(), destinations, technician));
    const input = runbookInput(move, technician);
    const runbook = input && buildRunbook(input);
    if (!runbook?.ok) throw new Error('no runbook');
    return runbook.value.steps.filter(({ kind }) => kind === 'restore').map(({ title }) => title);
  };

  it('comes from the fastest drive that holds what comes back', () => {
    // 31 GB: from a stick at USB 2 some 20 minutes, from a spinning drive at USB 3 some 5.
    expect(restores([{ ...stick, takes: ['documents', 'pictures'] }, driveB7])).toEqual([
      'Restore 2 data sets from B-07',
    ]);
  });

  it('is a step for each drive where the sets are apart, and names none that holds nothing', () => {
    expect(
      restores([
        { ...driveB7, id: 'b-08', name: 'B-08', serial: 'B8', takes: [] },
        stick,
        { ...driveB7, takes: ['pictures'] },
      ]),
    ).toEqual(['Restore 1 data set from B-07: Pictures', 'Restore 1 data set from S-11: Documents']);
  });
});

describe('installer stick and backup', () => {
  it.each([
    ['kst c7', 'another name', true],
    // One name with another serial: one of the two was read wrong, and nobody knows which device is erased.
    ['KST-C8', 'S-03', true],
    ['KST-C8', 'S-04', false],
    ['', 's 03', true],
    ['', 'S-04', false],
  ])('serial “%s”, name “%s”: the same device is %s', (serial, name, same) => {
    expect(isSameDevice({ name: 'S-03', serial: 'KST-C7' }, { name, serial })).toBe(same);
  });

  it('are told apart where a destination is set and where the stick is named', () => {
    const move = ready(planned());
    const asBackup = setDestinations(
      move,
      [{ ...driveB7, name: 'Spare', serial: 'kst c7' }, share],
      technician,
    );
    expect(!asBackup.ok && asBackup.problems[0]?.code).toBe('installer-stick');
    const named = done(prepare(planned(), { stick: { name: 'S-9', serial: 'osb 7731 c' } }, technician));
    expect(gateOf(named, 'stick-apart')?.sentence).toContain('is also the backup B-07');
  });
});
