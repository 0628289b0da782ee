import { randomUUID } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import {
  chooseRoute,
  conflictingParts,
  depart,
  diskWorkContext,
  differenceCount,
  handoverSheet,
  houseRulesEffect,
  keepBackup,
  keepRenames,
  measuredCopies,
  outlookOf,
  packDataSets,
  partWords,
  partsTouched,
  plan,
  planDisk,
  prepare,
  proofOf,
  reconciledSentence,
  recordCheck,
  recordExplained,
  recordFileList,
  recordReconciled,
  recordWipe,
  rowChanged,
  setDataSets,
  setDestinations,
  signStep,
  takeRow,
  thingsToTell,
  typeFact,
  unsignStep,
  type CommandOutcome,
  type Move,
  type Reconciled,
} from '../../src/record';
import { joinDataSet, splitDataSet } from '../../src/record/commands/splitDataSet';
import { missingFor } from '../../src/record/signable';
import { isolationIds } from '../../src/runbook';
import { defaultHouseRules } from '../../src/rules';
import {
  codesOf,
  documents,
  done,
  driveB7,
  emptyMove,
  laptop,
  lead,
  listHead,
  now,
  pictures,
  share,
  technician,
  today,
} from '../fixtures/shop';
import { clean, crossable, later, planned, ready, saved, surveyed } from '../fixtures/story';

const by = { at: now, by: 'Ines' };
/** What the log says of a change; fails where it was refused. */
function said(outcome: CommandOutcome): string {
  if (!outcome.ok) throw new Error(outcome.problems.map(({ sentence }) => sentence).join(' '));
  return outcome.value.sentence;
}
const noted = (preparation: Partial<Move['preparation']>): Move => ({
  ...emptyMove,
  preparation: { ...emptyMove.preparation, ...preparation },
});
const reconciled = (counts: Partial<Reconciled['counts']>, more: Partial<Reconciled> = {}): Reconciled => ({
  id: randomUUID(),
  dataSetId: 'documents',
  beforeId: randomUUID(),
  afterId: randomUUID(),
  ...by,
  counts: {
    same: 0,
    changed: 0,
    unproven: 0,
    renamed: 0,
    moved: 0,
    missing: 0,
    merged: 0,
    added: 0,
    duplicated: 0,
    ...counts,
  },
  noise: 0,
  explained: 0,
  open: 0,
  ...more,
});

describe('what a step waits for', () => {
  const missing = (kind: Parameters<typeof missingFor>[0]['kind'], move: Move, id: string = kind) =>
    missingFor({ kind, id }, move);
  it('is noted on Prepare, each for its own step', () => {
    const device = { maker: 'Ostley', model: 'Quern', serial: 'OQ-1', ...by };
    const cases = [
      ['pair-device', { replacement: device }, 'maker, model and serial'],
      ['move-data', { dataMoved: { statement: 'Compared.', ...by } }, 'on the new device'],
      ['wipe-old-disk', { wipe: { method: 'Overwritten', ...by } }, 'by which method'],
      ['disposal', { disposal: { how: 'Yard', ...by } }, 'who disposes'],
      ['end-date', { holdUntil: '2026-06-01' }, 'has a last day'],
    ] as const;
    for (const [kind, note, words] of cases) {
      expect(missing(kind, emptyMove)).toContain(words);
      expect([kind, missing(kind, noted(note))]).toEqual([kind, null]);
    }
    expect(missing('habits', emptyMove)).toBeNull();
  });

  it('is every line of the isolation list', () => {
    const [first, ...rest] = isolationIds;
    const ticked = (ids: readonly (typeof isolationIds)[number][]) =>
      missing('isolate', noted({ isolation: { done: [...ids], ...by } }));
    expect(ticked(isolationIds)).toBeNull();
    expect(ticked(rest)).toBe(
      'Not ticked on the isolation list of Prepare: Network cable out, and its socket marked.',
    );
    expect(first).toBe('cable');
    expect(missing('isolate', emptyMove)).toContain('The owner knows what it may be used for');
  });

  it('is a comparison of that destination that was not passed', () => {
    const failed = (destinationId: string): Move => ({
      ...emptyMove,
      failedChecks: [{ dataSetId: 'documents', destinationId, count: 1, files: [], ...by }],
    });
    expect(missing('verify', failed('b-07'), 'verify:b-07')).toContain('files that differ');
    expect(missing('verify', failed('b-08'), 'verify:b-07')).toBeNull();
  });

  it('is the last data set that nobody accounted for', () => {
    const both = missing('reconcile', saved());
    expect(both).toContain('2 data sets are not accounted for, first Documents');
    expect(missing('reconcile', { ...saved(), dataSets: [documents] })).toContain(
      '1 data set is not accounted for',
    );
    expect(missing('reconcile', emptyMove)).toBeNull();
  });
});

describe('an exception from a house rule', () => {
  it('needs an answer of that rule, a reason, and is taken back by the house’s own', () => {
    const move = surveyed();
    const off = { setting: 'encryption' as const, value: 'off' as const, reason: ' The dock asks for it. ' };
    expect(defaultHouseRules.encryption).not.toBe('off');
    expect(codesOf(depart(move, { ...off, value: 'purple' as never }, technician))).toEqual([
      'no-such-answer',
    ]);
    expect(codesOf(depart(move, { ...off, reason: '  ' }, technician))).toEqual(['reason-needed']);
    const departed = done(depart(move, off, technician));
    expect(departed.departures).toEqual([{ ...off, reason: 'The dock asks for it.', ...by }]);
    expect(said(depart(move, off, technician))).toContain('other than the house: The dock asks for it.');
    const twice = done(depart(departed, { ...off, reason: 'Again.' }, technician));
    expect(twice.departures).toHaveLength(1);
    const other = done(
      depart(twice, { setting: 'boot', value: 'change-order', reason: 'Again.' }, technician),
    );
    expect(other.departures.map(({ setting }) => setting)).toEqual(['encryption', 'boot']);
    const back = depart(other, { ...off, value: defaultHouseRules.encryption, reason: '' }, technician);
    expect(done(back).departures.map(({ setting }) => setting)).toEqual(['boot']);
    expect(said(back)).toContain('as the house does');
  });
});

describe('a row of a list', () => {
  it('adds what is new, keeps the source of what is the same, and is refused where it contradicts', () => {
    const move = surveyed();
    const row = (
      facts: readonly { readonly key: 'cores' | 'wordBits' | 'memoryBytes'; readonly value: number }[],
      identity: object = {},
    ) => ({ identity, facts }) as unknown as Parameters<typeof takeRow>[1];
    const same = takeRow(move, row([{ key: 'cores', value: 4 }]), technician);
    expect(said(same)).toBe('Row of a list applied: 0 facts new or changed.');
    expect(rowChanged(move, done(same))).toBe(false);
    const other = takeRow(
      move,
      row([
        { key: 'cores', value: 4 },
        { key: 'memoryBytes', value: 4 * 1024 ** 3 },
      ]),
      technician,
    );
    expect(said(other)).toBe('Row of a list applied: 1 fact new or changed.');
    expect(done(other).facts.cores?.source).toBe('collector');
    expect(done(other).facts.memoryBytes).toMatchObject({ source: 'imported', by: 'Ines' });
    expect(rowChanged(move, done(other))).toBe(true);
    expect(done(takeRow(move, row([], { owner: 'Crew', dueOn: '2026-04-01' }), technician))).toMatchObject({
      owner: 'Crew',
      site: move.site,
      dueOn: '2026-04-01',
    });
    expect(takeRow(move, row([{ key: 'cores', value: -1 }]), technician).ok).toBe(false);
  });
});

describe('a copy that was timed', () => {
  const signedIn = (minutes: number | null, actions: readonly ('sign' | 'start')[] = ['sign']): Move => ({
    ...planned(),
    signatures: actions.map((action) => ({
      stepId: 'copy:b-07',
      title: 'Copy to B-07',
      action,
      actualMinutes: minutes,
      note: '',
      ...by,
    })),
  });
  it('counts with its bytes, files and minutes once it is signed', () => {
    expect(measuredCopies(signedIn(38))).toEqual([
      {
        at: now,
        serial: driveB7.serial,
        source: 'solid-state',
        link: 'usb3',
        medium: 'spinning',
        sizeBytes: documents.sizeBytes + pictures.sizeBytes,
        fileCount: documents.fileCount + pictures.fileCount,
        minutes: 38,
      },
    ]);
    expect(measuredCopies(signedIn(0))).toEqual([]);
    expect(measuredCopies(signedIn(null))).toEqual([]);
    expect(measuredCopies(signedIn(38, ['start']))).toEqual([]);
    expect(measuredCopies(planned())).toEqual([]);
    expect(measuredCopies(saved())).toEqual([]);
  });

  it('and not as an image, of which nobody knows how much was read', () => {
    const imaged = { ...technician, houseRules: { ...defaultHouseRules, savedAs: 'image' as const } };
    const move = done(plan(saved(), imaged));
    expect(measuredCopies({ ...move, signatures: signedIn(38).signatures })).toEqual([]);
  });
});

describe('the outlook of a device', () => {
  const house = { catalogue: technician.catalogue, houseRules: technician.houseRules };
  it('has a verdict for each release, and the parts of what was chosen', () => {
    const outlook = outlookOf(surveyed(), house, today);
    expect(Object.keys(outlook.verdicts)).toHaveLength(technician.catalogue.releases.length);
    expect(outlook.parts).toEqual([]);
    const short = done(typeFact(surveyed(), 'memoryBytes', 1024 ** 3, technician));
    const asked = outlookOf({ ...short, decision: saved().decision }, house, today);
    // One gigabyte is less than Corvel 10 asks for: memory is to be bought.
    expect(asked.parts.map(({ kind }) => kind)).toEqual(['memory']);
  });
});

describe('what other house rules would do', () => {
  const house = { catalogue: technician.catalogue, houseRules: technician.houseRules };
  it('is said of the plan that was chosen, or of the advised one', () => {
    const other = { ...defaultHouseRules, encryption: 'off' as const };
    const chosen = houseRulesEffect(saved(), house, other, today);
    expect(chosen.plan).toContain('No longer: Switch device encryption on and record the recovery key.');
    expect(houseRulesEffect(saved(), house, defaultHouseRules, today).plan).toEqual([]);
    const open = houseRulesEffect(surveyed(), house, other, today);
    expect(open.advisedBefore).toBe(open.advisedAfter);
    expect(open.plan.length).toBeGreaterThan(0);
  });
});

describe('differences in one line', () => {
  it('are counted, and everything but the same is one', () => {
    const one = reconciled({ same: 8000, missing: 1, renamed: 2 }, { noise: 3, explained: 1, open: 1200 });
    expect(differenceCount(one)).toBe(3);
    expect(reconciledSentence(one)).toBe(
      '8,000 the same, 2 renamed, 1 missing; 3 made by the system itself, 1 explained, 1,200 open',
    );
    expect(reconciledSentence(reconciled({}))).toBe('no files');
    expect(reconciledSentence(reconciled({ same: 1 }))).toBe('1 the same');
  });
});

describe('what the owner is told', () => {
  it('is each kind of difference, open points, and until when a file can be brought back', () => {
    const move: Move = {
      ...saved(),
      reconciled: [
        reconciled({ same: 1, missing: 1, renamed: 2 }),
        { ...reconciled({ merged: 1 }), dataSetId: 'pictures' },
      ],
      retention: [
        { destinationId: 'b-07', label: 'L1', place: 'shelf', keepUntil: '2026-05-01', wiped: null },
        { destinationId: 'pier-store', label: 'L2', place: 'rack', keepUntil: '2026-04-01', wiped: null },
      ],
      handover: { ...saved().handover, openPoints: ['The printer.'] },
    };
    const sentences = thingsToTell(move).map(({ sentence }) => sentence);
    expect(sentences).toContain('The system was installed anew: some settings have to be made again.');
    expect(sentences).toContain('Still open: The printer.');
    // The earlier of the two days.
    expect(sentences.at(-1)).toBe(
      'The backup on B-07, Pier store is kept until 2026-04-01; after that day no file can be brought back.',
    );
    const held: Move = { ...move, decision: null, retention: [], handover: saved().handover };
    expect(
      thingsToTell(held)
        .map(({ sentence }) => sentence)
        .join(),
    ).not.toContain('installed anew');
    expect(
      thingsToTell(held)
        .map(({ sentence }) => sentence)
        .join(),
    ).not.toContain('The backup on');
  });
});

describe('the sheet of a hand-over', () => {
  const house = { catalogue: technician.catalogue, houseRules: technician.houseRules };
  const line = (move: Move, key: string) =>
    handoverSheet(move, house).identity.find(([name]) => name === key)?.[1];
  it('says what is known of device and way, and that the rest is not', () => {
    expect(line(saved(), 'From')).toBe('Corvel 9 Business');
    expect(line(saved(), 'To')).toBe('Corvel 10 Business');
    expect(line(saved(), 'Disks')).toContain('…9C2E 256.1 GB');
    const blank = ['Serial', 'Disks', 'Owner', 'From', 'To', 'Route'].map((key) => line(emptyMove, key));
    expect(blank).toEqual(['unknown', 'unknown', 'not named', 'unknown', 'not chosen', 'not chosen']);
    expect(line({ ...emptyMove, owner: 'Jon', site: '' }, 'Owner')).toBe('Jon');
    const unlisted = {
      ...emptyMove,
      facts: { ...laptop, presentRelease: { value: 'own-1', source: 'typed', ...by } },
    } as Move;
    expect(line(unlisted, 'From')).toBe('own-1');
    const decision = saved().decision;
    const replaced: Move = {
      ...saved(),
      decision: decision && { ...decision, routeId: 'replace', releaseId: null },
    };
    expect(line(replaced, 'To')).toBe('Replace the device');
  });

  it('names who overruled what, each copy, and what became of the backups', () => {
    const move: Move = {
      ...saved(),
      overrules: [{ gateId: 'power', reason: 'Fixed to the desk.', at: now, by: 'Maud' }],
      copies: [
        { dataSetId: 'documents', destinationId: 'b-07', verifiedAt: now, verifiedBy: 'Ines' },
        { dataSetId: 'documents', destinationId: 'gone', verifiedAt: now, verifiedBy: 'Ines' },
      ],
      retention: [
        { destinationId: 'b-07', label: 'L1', place: 'shelf', keepUntil: '2026-05-01', wiped: null },
        {
          destinationId: 'pier-store',
          label: 'L2',
          place: 'rack',
          keepUntil: '2026-04-01',
          wiped: { method: 'overwritten', ...by },
        },
      ],
    };
    const sheet = handoverSheet(move, house);
    expect(sheet.overrules).toEqual(['On its charger: overruled by Maud, 2026-03-02: Fixed to the desk.']);
    expect(sheet.copies).toHaveLength(1);
    expect(sheet.copies[0]).toMatch(/^Documents: B-07 .*; gone /);
    expect(sheet.backups).toEqual([
      'L1: shelf; kept until 2026-05-01, then wiped.',
      'L2: rack; wiped on 2026-03-02 by Ines, overwritten.',
    ]);
    expect(sheet.files.map(({ name, after }) => [name, after])).toEqual([
      ['Documents', 'not counted'],
      ['Pictures', 'not counted'],
    ]);
  });
});

describe('lists of files', () => {
  const list = (more: Parameters<typeof listHead>[0]) => recordFileList(saved(), listHead(more), technician);
  it('belong to a data set, a copy to a destination that takes it, and never to a part', () => {
    expect(codesOf(list({ dataSetId: 'none' }))).toEqual(['no-such-data-set']);
    expect(codesOf(list({ dataSetId: 'documents', role: 'copy', destinationId: 'none' }))).toEqual([
      'no-such-copy',
    ]);
    expect(said(list({ dataSetId: 'documents', role: 'copy', destinationId: 'b-07' }))).toBe(
      'List of Documents of the copy on B-07: 10 files.',
    );
    expect(said(list({ dataSetId: 'documents', role: 'after', troubled: 2 }))).toBe(
      'List of Documents after the restore: 10 files, 2 of them without a checksum.',
    );
    const parted: Move = {
      ...saved(),
      dataSets: [{ ...documents, part: { of: 'all', places: ['a'] } }, pictures],
    };
    expect(codesOf(recordFileList(parted, listHead({ dataSetId: 'documents' }), technician))).toEqual([
      'a-part',
    ]);
    expect(recordFileList(parted, listHead({ dataSetId: 'documents', role: 'after' }), technician).ok).toBe(
      true,
    );
  });

  it('of the data as they are set its counts, and keep what was typed beside it', () => {
    const [set] = done(list({ dataSetId: 'documents' })).dataSets;
    expect(set).toMatchObject({
      fileCount: 10,
      sizeBytes: 100,
      largestFileBytes: 10,
      typed: { sizeBytes: documents.sizeBytes, fileCount: documents.fileCount },
    });
    // Some files have no size: the bytes stay as they were.
    const [vague] = done(list({ dataSetId: 'documents', withoutSize: 1 })).dataSets;
    expect(vague).toMatchObject({ fileCount: 10, sizeBytes: documents.sizeBytes });
    const equal = list({
      dataSetId: 'documents',
      fileCount: documents.fileCount,
      sizeBytes: documents.sizeBytes,
    });
    expect(done(equal).dataSets[0]).not.toHaveProperty('typed');
  });

  it('say how many files differ, one or several', () => {
    const check = (count: number) =>
      said(
        recordCheck(
          saved(),
          {
            dataSetId: 'documents',
            destinationId: 'b-07',
            check: { method: 'full', files: 10 },
            count,
            files: [],
          },
          technician,
        ),
      );
    expect(check(1)).toContain('10 files compared, 1 differs. Copy');
    expect(check(1200)).toContain('1,200 differ.');
    expect(check(0)).toBe('Documents on B-07: 10 files compared, all the same.');
    const sampled = recordCheck(
      saved(),
      {
        dataSetId: 'documents',
        destinationId: 'b-07',
        check: { method: 'sample', files: 5, ofFiles: 10, confidence: 0.95, share: 0.01 } as never,
        count: 0,
        files: [],
      },
      technician,
    );
    expect(said(sampled)).toContain('a sample of 5 of 10 files compared');
  });
});

describe('backups', () => {
  const kept = { destinationId: 'b-07', label: 'L1', place: 'shelf', keepUntil: '2026-05-01' };
  it('are of a destination of the move, and wiped once it is handed over', () => {
    expect(codesOf(keepBackup(saved(), { ...kept, destinationId: 'none' }, technician))).toEqual([
      'no-such-destination',
    ]);
    expect(codesOf(keepBackup(saved(), { ...kept, keepUntil: '2026-03-01' }, technician))).toEqual([
      'day-is-over',
    ]);
    expect(keepBackup(saved(), { ...kept, keepUntil: '2026-03-02' }, technician).ok).toBe(true);
    const two = done(
      keepBackup(
        done(keepBackup(saved(), kept, technician)),
        { ...kept, destinationId: 'pier-store' },
        technician,
      ),
    );
    const again = done(keepBackup(two, { ...kept, label: 'L9' }, technician));
    expect(again.retention.map(({ destinationId, label }) => [destinationId, label])).toEqual([
      ['pier-store', 'L1'],
      ['b-07', 'L9'],
    ]);
    const signed: Move = {
      ...again,
      handover: { ...again.handover, signedOff: { ownerName: 'Jon', ...by } as never },
    };
    const wipe = (destinationId: string, method = ' overwritten ') =>
      recordWipe(signed, { destinationId, method }, technician);
    expect(codesOf(recordWipe(again, { destinationId: 'b-07', method: 'x' }, technician))).toEqual([
      'not-handed-over',
    ]);
    expect(codesOf(wipe('none'))).toEqual(['no-such-backup']);
    expect(codesOf(wipe('b-07', ' '))).toEqual(['no-method']);
    expect(said(wipe('pier-store'))).toBe('Backup on Pier store wiped: overwritten');
    expect(done(wipe('pier-store')).retention.map(({ wiped }) => wiped?.method)).toEqual([
      'overwritten',
      undefined,
    ]);
    const wiped = done(wipe('b-07'));
    expect(codesOf(recordWipe(wiped, { destinationId: 'b-07', method: 'x' }, technician))).toEqual([
      'wiped-already',
    ]);
    expect(codesOf(keepBackup(wiped, kept, technician))).toEqual(['wiped-already']);
  });

  it('keep the other names of files, one list a copy', () => {
    const rename = { from: 'a', to: 'b' } as never;
    const names = (count: number, destinationId = 'b-07') =>
      keepRenames(saved(), {
        dataSetId: 'documents',
        destinationId,
        renames: Array.from({ length: count }, () => rename),
      });
    expect(codesOf(names(1, 'none'))).toEqual(['no-such-copy']);
    expect(said(names(0))).toContain('no name is another there');
    expect(said(names(1))).toContain('1 name is another there');
    expect(said(names(2))).toContain('2 names are others there');
    const [one, other] = [
      done(names(1)),
      { dataSetId: 'documents', destinationId: 'pier-store', renames: [rename] },
    ];
    const both = done(keepRenames(one, other));
    expect(both.renames.map(({ destinationId }) => destinationId)).toEqual(['b-07', 'pier-store']);
    const without = done(keepRenames(both, { dataSetId: 'documents', destinationId: 'b-07', renames: [] }));
    expect(without.renames.map(({ destinationId }) => destinationId)).toEqual(['pier-store']);
  });
});

describe('a data set in parts', () => {
  const part = (fileCount: number, sizeBytes: number, destinationIds: readonly string[] = ['b-07']) => ({
    places: ['a'],
    fileCount,
    sizeBytes,
    largestFileBytes: sizeBytes,
    destinationIds,
  });
  const { fileCount, sizeBytes } = documents;
  const split = (...parts: readonly ReturnType<typeof part>[]) =>
    splitDataSet(saved(), 'documents', parts, technician);
  it('is the whole to the file and the byte, and is put together again', () => {
    expect(codesOf(split(part(fileCount, sizeBytes)))).toEqual(['parts-are-not-the-whole']);
    expect(codesOf(split(part(1, 1), part(fileCount - 1, sizeBytes)))).toEqual(['parts-are-not-the-whole']);
    expect(codesOf(split(part(1, 1), part(fileCount, sizeBytes - 1)))).toEqual(['parts-are-not-the-whole']);
    const two = done(split(part(1, 1), part(fileCount - 1, sizeBytes - 1, ['pier-store'])));
    expect(two.dataSets.map(({ name }) => name)).toEqual([
      'Documents, part 1 of 2',
      'Documents, part 2 of 2',
      'Pictures',
    ]);
    const [first, second] = two.dataSets;
    expect(two.destinations.map(({ takes }) => takes)).toEqual([
      ['pictures', first?.id],
      ['pictures', second?.id],
    ]);
    expect(codesOf(splitDataSet(two, first?.id ?? '', [part(1, 1), part(0, 0)], technician))).toEqual([
      'a-part',
    ]);
    expect(codesOf(splitDataSet(two, 'none', [], technician))).toEqual(['no-such-data-set']);
    const joined = done(joinDataSet(two, 'documents', technician));
    expect(joined.dataSets[0]).toEqual({ ...documents, largestFileBytes: sizeBytes - 1 });
    // Neither drive held all of it.
    expect(joined.destinations.map(({ takes }) => takes)).toEqual([['pictures'], ['pictures']]);
    const together = done(split(part(1, 1), part(fileCount - 1, sizeBytes - 1)));
    expect(done(joinDataSet(together, 'documents', technician)).destinations[0]?.takes).toEqual([
      'pictures',
      'documents',
    ]);
    expect(codesOf(joinDataSet(saved(), 'documents', technician))).toEqual(['no-parts']);
  });
});

describe('notes on Prepare', () => {
  it('say what was noted or withdrawn, and a hold ends on a day to come', () => {
    expect(said(prepare(saved(), {}, technician))).toBe('Nothing changed.');
    expect(said(prepare(saved(), { power: {} }, technician))).toMatch(/ noted\.$/);
    expect(said(prepare(ready(saved()), { power: null }, technician))).toMatch(/ withdrawn\.$/);
    expect(codesOf(prepare(saved(), { holdUntil: today }, technician))).toEqual(['hold-is-over']);
    expect(prepare(saved(), { holdUntil: '2026-03-03' }, technician).ok).toBe(true);
  });
});

describe('planning work on a disk', () => {
  const work = { kind: 'layout', goal: { kind: 'room', sizeBytes: 40_000_000_000 } } as const;
  const marked = ready(saved());
  it('is refused for a disk that is not there, and below the Line, and taken out again', () => {
    expect(codesOf(planDisk(marked, { disk: 'none', work }, technician))).toEqual(['no-such-disk']);
    const plannedWork = planDisk({ ...marked, decision: null }, { disk: 'sda', work }, technician);
    expect(said(plannedWork)).toMatch(/^Disk …9C2E: .*, \d+ operations?, about \d+ min\.$/);
    expect(done(plannedWork).diskPlan).toMatchObject({ disk: 'sda', serial: 'HX7714A9C2E', by: 'Ines' });
    expect(done(planDisk(done(plannedWork), { disk: 'sda', work: null }, technician)).diskPlan).toBeNull();
    const crossing = crossable();
    const erase = crossing.plan?.runbook.steps.find(({ kind }) => kind === 'erase-disk');
    const below = done(
      signStep(
        crossing,
        erase?.id ?? '',
        { actualMinutes: 9, note: '', crossing: { serialEnd: '9C2E', sizeShown: 238.5 } },
        later(60),
      ),
    );
    expect(codesOf(planDisk(below, { disk: 'sda', work }, technician))).toEqual(['line-crossed']);
  });
});

describe('choosing', () => {
  it('asks for each check that is waived, and for a medium that can be used', () => {
    const bare = done(typeFact(surveyed(), 'tpm', 'none', technician));
    const choice = { ...clean, routeId: 'waived-clean' as const };
    expect(codesOf(chooseRoute(bare, choice, lead))).toEqual(['not-waived']);
    const chosen = done(chooseRoute(bare, { ...choice, waivers: ['tpm', 'secure-boot'] }, lead));
    expect(chosen.decision?.waivers).toContain('tpm');
    // A whole disk is not emptied by what runs from it.
    const inside = { ...clean, installerMedium: 'running-system' as const };
    expect(codesOf(chooseRoute(surveyed(), inside, technician))).toEqual(['cannot-be-brought']);
    expect(codesOf(chooseRoute(surveyed(), { ...clean, reason: ' ' }, technician))).toEqual([
      'reason-needed',
    ]);
  });
});

describe('parts of a move', () => {
  it('are called by the words of the page', () => {
    expect(partWords('facts/cores')).toBe('the survey');
    expect(partWords('signatures/boot')).toBe('the steps of the runbook');
    expect(partWords('owner')).toBe('the move');
    expect(partWords('')).toBe('the move');
  });

  it('are told one by one: facts, notes, entries of lists', () => {
    const move = saved();
    expect(partsTouched(move, move)).toEqual([]);
    expect(partsTouched(move, done(prepare(move, { power: {} }, technician)))).toEqual(['preparation/power']);
    expect(partsTouched(move, { ...move, owner: 'Jon' })).toEqual(['owner']);
    const fewer = done(setDataSets(done(setDestinations(move, [], technician)), [documents], technician));
    expect(partsTouched(move, fewer).toSorted()).toEqual([
      'dataSets/pictures',
      'destinations/b-07',
      'destinations/pier-store',
    ]);
  });

  it('conflict where somebody else changed what this was decided by', () => {
    const move = saved();
    const chosen: Move = { ...move, decision: move.decision && { ...move.decision, reason: 'Other.' } };
    const conflict = (versions: Record<string, number>, seen: number, after = chosen) =>
      conflictingParts(move, after, versions, seen);
    expect(conflict({ 'facts/cores': 5 }, 5)).toEqual([]);
    expect(conflict({ 'facts/cores': 6 }, 5)).toEqual(['facts/cores']);
    expect(conflict({ 'preparation/power': 6 }, 5)).toEqual([]);
    expect(conflict({ '*': 6 }, 5)).toEqual(['decision', '*']);
    // What closes the record was decided by all of it.
    const calledOff: Move = { ...move, calledOff: { reason: 'Mistake.', ...by } };
    expect(conflict({ 'preparation/power': 6, owner: 4 }, 5, calledOff)).toEqual(['preparation/power']);
  });
});

describe('a line of the log', () => {
  it('is a statement unless its kind says more', () => {
    expect(proofOf({ kind: 'copy-compared' })).toBe('compared');
    expect(proofOf({ kind: 'no-such-kind' as never })).toBe('stated');
  });
});

describe('the destinations of a move', () => {
  it('say how many verified copies no longer count', () => {
    const copies = [
      { dataSetId: 'documents', destinationId: 'b-07', verifiedAt: now, verifiedBy: 'Ines' },
      { dataSetId: 'pictures', destinationId: 'b-07', verifiedAt: now, verifiedBy: 'Ines' },
    ];
    const move: Move = { ...saved(), copies };
    const other = { ...driveB7, serial: 'OSB-9999X' };
    expect(said(setDestinations(move, [other, share], technician))).toBe(
      'Destinations: B-07, Pier store. 2 verified copies no longer count: B-07 is another drive now, by its serial.',
    );
    const one: Move = { ...move, copies: copies.slice(0, 1) };
    expect(said(setDestinations(one, [other, share], technician))).toContain(
      '1 verified copy no longer counts',
    );
    expect(
      done(setDestinations(move, [{ ...driveB7, takes: ['documents'] }, share], technician)).copies,
    ).toEqual(copies.slice(0, 1));
    expect(said(setDestinations(saved(), [], technician))).toBe('Destinations: none.');
  });
});

describe('a comparison of files', () => {
  const id = randomUUID();
  const compared: Move = { ...saved(), reconciled: [{ ...reconciled({ missing: 3 }, { open: 3 }), id }] };
  it('says what was explained and what is still open, by the name of its data set', () => {
    const explained = (open: number) =>
      recordExplained(compared, { id, explained: 3 - open, open, what: '1 explained.' }, technician);
    expect(said(explained(0))).toBe('Documents: 1 explained. Nothing is open any more.');
    expect(said(explained(2))).toBe('Documents: 1 explained. 2 are still open.');
    expect(done(explained(2)).reconciled).toMatchObject([{ id, explained: 1, open: 2 }]);
    const gone = { id: randomUUID(), explained: 1, open: 0, what: '' };
    expect(codesOf(recordExplained(compared, gone, technician))).toEqual(['no-such-comparison']);
    const unknown: Move = { ...compared, dataSets: [pictures] };
    expect(
      said(recordExplained(unknown, { id, explained: 3, open: 0, what: 'Told.' }, technician)),
    ).toContain('documents: Told.');
  });

  it('takes the place of the one before, and is of a data set of the move', () => {
    const { at: _at, by: _by, ...again } = reconciled({ same: 8 });
    expect(said(recordReconciled(compared, again, technician))).toBe(
      'Documents compared file by file: 8 the same.',
    );
    expect(done(recordReconciled(compared, again, technician)).reconciled.map((one) => one.id)).toEqual([
      again.id,
    ]);
    const other = { ...again, dataSetId: 'pictures' };
    expect(done(recordReconciled(compared, other, technician)).reconciled).toHaveLength(2);
    expect(codesOf(recordReconciled(compared, { ...again, dataSetId: 'none' }, technician))).toEqual([
      'no-such-data-set',
    ]);
  });
});

describe('what guards work on a disk', () => {
  it('is short of the data sets that fewer destinations take than the house asks for', () => {
    const once: Move = { ...saved(), destinations: [driveB7] };
    expect(diskWorkContext(once, technician).short).toEqual([
      { name: 'Documents', planned: 1, needed: 2 },
      { name: 'Pictures', planned: 1, needed: 2 },
    ]);
    expect(diskWorkContext(saved(), technician).short).toEqual([]);
    expect(diskWorkContext(once, technician)).toMatchObject({
      target: { name: 'sda' },
      route: { writesOver: 'whole-disk' },
    });
    expect(diskWorkContext({ ...once, decision: null }, technician)).toMatchObject({
      target: { name: 'sda' },
      route: undefined,
    });
    // Nothing is written over: one copy is enough.
    expect(diskWorkContext({ ...once, decision: null }, technician).short).toEqual([]);
  });
});

describe('taking a signature back', () => {
  const signed = (move: Move, stepId: string) =>
    done(signStep(move, stepId, { actualMinutes: 90, note: '' }, technician));
  it('above the Line takes the copies of that step along, and no others', () => {
    const both = crossable();
    expect(both.copies).toHaveLength(4);
    const back = done(unsignStep(both, 'verify:b-07', 'A file differed.', technician));
    expect(back.copies.map(({ destinationId }) => destinationId)).toEqual(['pier-store', 'pier-store']);
    expect(done(unsignStep(both, 'charger', 'Not seen.', technician)).copies).toHaveLength(4);
    expect(codesOf(unsignStep(both, 'charger', ' ', technician))).toEqual(['reason-needed']);
    expect(codesOf(unsignStep(planned(), 'charger', 'Why.', technician))).toEqual(['step-conflict']);
    expect(codesOf(unsignStep(both, 'none', 'Why.', technician))).toEqual(['no-such-step']);
  });

  it('below the Line goes from the last one up, and never above it', () => {
    const crossing = { serialEnd: '9C2E', sizeShown: 238.5 };
    const erased = done(
      signStep(crossable(), 'erase-disk', { actualMinutes: 9, note: '', crossing }, later(60)),
    );
    const installed = signed(erased, 'install');
    const out = signed(installed, 'stick-out');
    expect(codesOf(unsignStep(out, 'install', 'Why.', technician))).toEqual(['later-step-signed']);
    expect(codesOf(unsignStep(out, 'stick-out', 'Why.', technician))).toEqual([]);
    expect(codesOf(unsignStep(installed, 'install', 'Why.', technician))).toEqual([]);
    expect(codesOf(unsignStep(erased, 'charger', 'Why.', technician))).toEqual(['line-crossed']);
    expect(codesOf(unsignStep(erased, 'erase-disk', 'Why.', technician))).toEqual(['line-crossed']);
  });
});

describe('packing', () => {
  it('puts a whole data set onto each destination of its one part, and onto no other', () => {
    const whole = (dataSetId: string, ...destinationIds: readonly string[]) => ({
      dataSetId,
      parts: [{ places: [''], sizeBytes: 1, fileCount: 1, largestFileBytes: 1, destinationIds }],
    });
    const packed = done(
      packDataSets(
        saved(),
        [whole('documents', 'b-07', 'pier-store'), whole('pictures', 'pier-store')],
        technician,
      ),
    );
    expect(packed.destinations.map(({ takes }) => takes)).toEqual([['documents'], ['documents', 'pictures']]);
    expect(codesOf(packDataSets(saved(), [whole('documents', 'b-07')], technician))).toEqual([
      'packing-stale',
    ]);
    expect(
      codesOf(packDataSets(saved(), [whole('documents', 'none'), whole('pictures', 'b-07')], technician)),
    ).toEqual(['packing-stale']);
  });
});
