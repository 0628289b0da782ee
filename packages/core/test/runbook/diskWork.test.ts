import { describe, expect, it } from 'vitest';
import {
  bothMeanings,
  bufferSource,
  segmentsOfPlan,
  sizeRange,
  planConversion,
  planLayout,
  planSegments,
  encodeCapsule,
  sameSize,
  shrinkBox,
  sizeBox,
  surveyedFromTable,
  tableFromSurvey,
  undoCapsule,
} from '../../src/disk';
import {
  chooseRoute,
  decideInput,
  keepCapsule,
  plan,
  planDisk,
  prepare,
  setDataSets,
  setDestinations,
  takeSurvey,
  typeFact,
  type Move,
} from '../../src/record';
import { decide } from '../../src/decide';
import type { DiskWork } from '../../src/runbook';
import { partitionBytes, type Disk } from '../../src/survey';
import { gateOf, ready } from '../fixtures/story';
import {
  codesOf,
  documents,
  done,
  driveB7,
  emptyMove,
  laptopSurvey,
  lead,
  pictures,
  share,
  splitDisk,
  technician,
  today,
} from '../fixtures/shop';
import { seeded } from '../fixtures/disks';

const mib = 1024 ** 2;
/** Sectors of 512 bytes in a MiB. */
const unit = 2048;

/** The laptop's disk with an MBR: boot, system with 40 of 129 GB used, data; 13 GiB free behind them. */
const mbrDisk: Disk = {
  ...splitDisk,
  scheme: 'mbr',
  partitions: [
    {
      number: 1,
      startLba: unit,
      sectorCount: 500 * unit,
      role: 'boot',
      label: 'BOOT',
      fileSystem: 'ntfs',
      usedBytes: 30 * mib,
    },
    { ...at(3), number: 2, startLba: 501 * unit },
    { ...at(4), number: 3, startLba: 123_381 * unit },
  ],
};
function at(number: number) {
  const found = splitDisk.partitions.find((one) => one.number === number);
  if (!found) throw new Error();
  return found;
}
const other: Disk = { ...splitDisk, name: 'sdb', serial: 'BL77A0', partitions: [] };

/** A laptop with an MBR disk and a second one, saved for, with serial number and size of the first noted. */
function saved(disks: readonly Disk[] = [mbrDisk, other]): Move {
  let move = done(takeSurvey(emptyMove, { ...laptopSurvey, disks: [...disks] }, 'collector', technician));
  move = done(setDataSets(move, [documents, pictures], technician));
  move = done(setDestinations(move, [driveB7, share], technician));
  return done(prepare(move, { diskMarks: { serialEnd: '9C2E', sizeGigabytes: 256.1 } }, technician));
}

// 225,781 MiB end the data partition; the rest of 244,198 MiB is free, so there is room for both.
const makeEfi = { kind: 'make-efi' as const, startLba: 225_781 * unit, sectorCount: 100 * unit };
const toGpt: DiskWork = { kind: 'convert', target: 'gpt', resolutions: [makeEfi] };
const upgrade = {
  routeId: 'in-place-upgrade' as const,
  releaseId: 'corvel-10-business',
  reason: 'Asked for.',
};

describe('a conversion in the runbook', () => {
  it('opens the route that the scheme had closed', () => {
    const move = saved();
    const before = decide(decideInput(move, technician, today)).candidates.find(
      ({ routeId, releaseId }) => routeId === upgrade.routeId && releaseId === upgrade.releaseId,
    );
    expect(before?.status).toBe('excluded');
    expect(before?.reasons.find(({ rule }) => rule === 'scheme-suits')?.finding).toBe('excludes');
    const after = decide(
      decideInput(done(planDisk(move, { disk: 'sda', work: toGpt }, technician)), technician, today),
    ).candidates.find(
      ({ routeId, releaseId }) => routeId === upgrade.routeId && releaseId === upgrade.releaseId,
    );
    expect(after?.reasons.find(({ rule }) => rule === 'scheme-suits')).toMatchObject({ finding: 'allows' });
    expect(after?.status).not.toBe('excluded');
  });

  function plannedMove(): Move {
    let move = done(planDisk(saved(), { disk: 'sda', work: toGpt }, technician));
    move = done(chooseRoute(move, upgrade, lead));
    return done(plan(ready(move), technician));
  }

  it('puts the capsule above the Line, and scheme, boot files and firmware below it, in this order', () => {
    const runbook = plannedMove().plan?.runbook;
    const kinds = runbook?.steps.map(({ kind }) => kind) ?? [];
    const own = ['keep-table', 'convert-scheme', 'boot-files', 'switch-firmware', 'start-upgrade'];
    expect(kinds.filter((kind) => own.includes(kind))).toEqual(own);
    expect(kinds.indexOf('convert-scheme')).toBe(runbook?.lineIndex);
    expect(runbook?.lineSentence).toContain('only the undo capsule brings the old one back');
    const convert = runbook?.steps.find(({ kind }) => kind === 'convert-scheme');
    expect(convert?.title).toBe('Convert disk …9C2E from MBR to GPT');
    // Create 1, format 2 and the conversion itself 10 minutes.
    expect(convert?.waiting.likely).toBe(13);
    expect(convert?.troubles).toEqual(['power-lost']);
    // Whether the system still starts is seen once the mode is switched.
    expect(runbook?.steps.find(({ kind }) => kind === 'switch-firmware')?.troubles).toContain(
      'does-not-start',
    );
    expect(runbook?.steps.find(({ kind }) => kind === 'boot-files')?.title).toContain('partition 4');
    expect(runbook?.gates).toEqual(
      expect.arrayContaining(['capsule-kept', 'disk-identified', 'copies-verified']),
    );
  });

  it('asks for suspended encryption and a full shut-down before the table is touched', () => {
    const locked = {
      ...mbrDisk,
      partitions: mbrDisk.partitions.map((one) => (one.role === 'data' ? { ...one, encrypted: true } : one)),
    };
    expect(codesOf(planDisk(saved([locked, other]), { disk: 'sda', work: toGpt }, technician))).toEqual([
      'encryption-on',
    ]);
    const number = locked.partitions.find(({ role }) => role === 'data')?.number ?? 0;
    const work: DiskWork = {
      ...toGpt,
      resolutions: [makeEfi, { kind: 'suspended', partition: number }],
    };
    let move = done(planDisk(saved([locked, other]), { disk: 'sda', work }, technician));
    move = done(plan(ready(done(chooseRoute(move, upgrade, lead))), technician));
    const keep = move.plan?.runbook.steps.find(({ kind }) => kind === 'keep-table');
    expect(keep?.caution).toContain('suspend the encryption in its own system, and shut that down in full');
  });

  /** The disk's own first and last sectors stand for the whole: all else reads as zero. */
  function capsuleOf(target: 'gpt' | 'mbr' = 'gpt') {
    const small = bufferSource(new Uint8Array(512), 512);
    const source = {
      ...small,
      sectorCount: mbrDisk.sectorCount,
      read: (_lba: number, count: number) => new Uint8Array(count * 512),
    };
    const converted = planConversion(tableFromSurvey(mbrDisk), 'gpt', {
      random: seeded(1),
      resolutions: [makeEfi],
    });
    if (!converted.ok) throw new Error(converted.problems[0]?.sentence);
    const capsule = undoCapsule(source, [
      { startLba: 0, bytes: new Uint8Array(512).fill(1), about: 'protective MBR' },
    ]);
    if (!capsule.ok) throw new Error();
    return {
      disk: 'sda',
      target,
      remembered: converted.value.remembered,
      undo: encodeCapsule(capsule.value, 'HX7714A9C2E'),
    };
  }

  it('keeps the Line closed until the old sectors are kept', () => {
    const move = plannedMove();
    expect(gateOf(move, 'capsule-kept')).toMatchObject({ state: 'closed' });
    expect(gateOf(done(keepCapsule(move, capsuleOf(), technician)), 'capsule-kept')).toMatchObject({
      state: 'green',
    });
    expect(gateOf(done(keepCapsule(move, capsuleOf('mbr'), technician)), 'capsule-kept')).toMatchObject({
      state: 'closed',
    });
    const wrong = capsuleOf();
    expect(
      codesOf(
        keepCapsule(
          move,
          { ...wrong, undo: { ...wrong.undo, disk: { ...wrong.undo.disk, sectorCount: 1000 } } },
          technician,
        ),
      ),
    ).toEqual(['another-disk']);
    expect(codesOf(keepCapsule(move, { ...wrong, disk: 'sdz' }, technician))).toEqual(['no-such-disk']);
    // None of those that are kept is pushed out by another: each may be the only way back.
    let full = move;
    for (let kept = 0; kept < 8; kept += 1) full = done(keepCapsule(full, wrong, technician));
    expect(codesOf(keepCapsule(full, wrong, technician))).toEqual(['too-many-capsules']);
    const [first] = wrong.undo.writes;
    if (!first) throw new Error();
    const huge = { ...wrong.undo, writes: [{ ...first, data: 'A'.repeat(1_200_004) }] };
    expect(codesOf(keepCapsule(move, { ...wrong, undo: huge }, technician))).toEqual(['capsule-too-large']);
  });

  it('turns legacy off after the conversion and not before', () => {
    const survey = { ...laptopSurvey, firmware: { mode: 'legacy' as const }, disks: [mbrDisk, other] };
    let move = done(takeSurvey(saved(), survey, 'collector', technician));
    move = done(planDisk(move, { disk: 'sda', work: toGpt }, technician));
    move = done(chooseRoute(move, upgrade, lead));
    const steps = done(plan(ready(move), technician)).plan?.runbook.steps ?? [];
    expect(steps.map(({ id }) => id)).not.toContain('firmware:legacy-off');
    expect(steps.find(({ kind }) => kind === 'switch-firmware')?.title).toBe(
      'Switch the firmware to UEFI mode',
    );
  });

  it('is stale when the disk is no longer the one that was planned for', () => {
    const move = plannedMove();
    const fuller = mbrDisk.partitions.map((one) =>
      one.number === 3 ? { ...one, usedBytes: 61_000_000_000 } : one,
    );
    const changed = done(typeFact(move, 'disks', [{ ...mbrDisk, partitions: fuller }, other], technician));
    expect(gateOf(changed, 'plan-current')).toMatchObject({ state: 'green' });
    const gone = done(typeFact(move, 'disks', [{ ...mbrDisk, name: 'nvme0' }, other], technician));
    expect(gateOf(gone, 'plan-current')).toMatchObject({ state: 'closed' });
    expect(codesOf(plan(gone, technician))).toEqual(['no-such-disk']);
  });
});

describe('guards', () => {
  const room: DiskWork = { kind: 'layout', goal: { kind: 'room', sizeBytes: 30 * 1024 * mib } };
  const wipe: DiskWork = { kind: 'layout', goal: { kind: 'wipe', scheme: 'gpt', installer: [] } };
  const codes = (move: Move, disk: string, work: DiskWork) =>
    codesOf(planDisk(move, { disk, work }, technician));

  it('lets a plan through that touches what may be touched', () => {
    expect(codes(saved(), 'sda', room)).toEqual([]);
  });

  it('refuses another disk, and a disk that is not identified by serial number and size', () => {
    expect(codes(saved(), 'sdb', room)).toEqual(expect.arrayContaining(['other-disk', 'not-told']));
    const unmarked = done(prepare(saved(), { diskMarks: null }, technician));
    expect(codes(unmarked, 'sda', room)).toEqual(['not-told']);
    const wrong = done(
      prepare(saved(), { diskMarks: { serialEnd: '77A0', sizeGigabytes: 256.1 } }, technician),
    );
    expect(codes(wrong, 'sda', room)).toEqual(['not-told']);
    expect(codes(saved([mbrDisk]), 'sdq', room)).toEqual(['no-such-disk']);
  });

  it('refuses to erase what the route promised to keep', () => {
    expect(codes(saved(), 'sda', wipe)).toContain('promised');
    const clean = done(
      chooseRoute(
        saved([splitDisk]),
        { routeId: 'clean-whole-disk', releaseId: 'corvel-10-business', reason: 'Asked for.' },
        technician,
      ),
    );
    expect(codes(clean, 'sda', wipe)).toEqual([]);
  });

  it('refuses while data have fewer copies planned than the house asks for', () => {
    const uncopied = done(setDestinations(saved(), [], technician));
    expect(codes(uncopied, 'sda', room)).toEqual(['not-copied', 'not-copied']);
  });

  it('is taken out again, and not planned below the Line or after the hand-over', () => {
    const planned = done(planDisk(saved(), { disk: 'sda', work: room }, technician));
    expect(planned.diskPlan?.disk).toBe('sda');
    expect(done(planDisk(planned, { disk: 'sda', work: null }, technician)).diskPlan).toBeNull();
  });
});

describe('a layout in the runbook', () => {
  it('has the same numbers in plan, step and shrink box', () => {
    const work: DiskWork = { kind: 'layout', goal: { kind: 'room', sizeBytes: 60 * 1024 * mib } };
    let move = done(
      chooseRoute(
        saved([splitDisk]),
        { routeId: 'beside-same-disk', releaseId: 'harrow-5', reason: 'Asked for.' },
        lead,
      ),
    );
    move = done(planDisk(move, { disk: 'sda', work }, technician));
    const steps = done(plan(move, technician)).plan?.runbook.steps ?? [];
    expect(steps.map(({ kind }) => kind)).not.toContain('shrink-system');
    const shrink = steps.find(({ kind }) => kind === 'shrink-partition');
    // The data partition gives 102,400 − 62,950 MiB (60 GB used and a tenth) and what is free behind; the system's 82 GB do it alone.
    const box = shrinkBox(
      partitionBytes(splitDisk, at(3)),
      partitionBytes(splitDisk, at(3)) - 60 * 1024 * mib,
    );
    if (!box.ok) throw new Error();
    expect(box.value.type).toBe('61440');
    expect(shrink?.title).toContain('type 61440 (MiB to remove)');
    expect(shrink?.stage).toBe('prepare');
  });
});

describe('tables and surveys', () => {
  it('know of each other what they can', () => {
    const table = tableFromSurvey(splitDisk);
    expect(table.partitions.map(({ number, typeCode }) => [number, typeCode.slice(0, 8)])).toEqual([
      [1, 'C12A7328'],
      [2, 'E3C9E316'],
      [3, 'EBD0A0A2'],
      [4, 'EBD0A0A2'],
      [5, 'DE94BBA4'],
    ]);
    expect(sameSize(splitDisk, table)).toBe(true);
    const read = {
      ...table,
      partitions: table.partitions.map((one) =>
        one.number === 4 ? { ...one, usedBytes: 61_000_000_000 } : one,
      ),
    };
    const back = surveyedFromTable(splitDisk, read);
    // Reading adds what it saw, and takes away nothing that only the survey knew.
    expect(back.partitions.find(({ number }) => number === 4)).toMatchObject({
      usedBytes: 61_000_000_000,
      role: 'data',
      mountedAt: '/media/data',
    });
  });

  it('plan nothing while the scheme is unknown', () => {
    const { scheme: _scheme, ...unknown } = splitDisk;
    const outcome = planLayout(tableFromSurvey(unknown), { kind: 'room', sizeBytes: mib });
    expect(codesOf(outcome)).toEqual(['scheme-unknown']);
  });

  it('draw what stays, moves, goes and comes, over the whole disk', () => {
    const table = tableFromSurvey(splitDisk);
    const moved = table.partitions.flatMap((one) =>
      one.number === 2 ? [] : one.number === 5 ? [{ ...one, startLba: one.startLba + 100 * unit }] : [one],
    );
    const drawn = planSegments(table, {
      ...table,
      partitions: [
        ...moved,
        { ...moved[0], number: 9, startLba: 230_000 * unit, sectorCount: unit } as (typeof moved)[number],
      ],
    });
    const fates = (segments: typeof drawn.before) =>
      segments
        .filter(({ kind }) => kind === 'partition')
        .map(({ partitionNumber, fate }) => [partitionNumber, fate]);
    expect(fates(drawn.before)).toEqual([
      [1, 'kept'],
      [2, 'erased'],
      [3, 'kept'],
      [4, 'kept'],
      [5, 'moved'],
    ]);
    expect(fates(drawn.after)).toEqual([
      [1, 'kept'],
      [3, 'kept'],
      [4, 'kept'],
      [5, 'moved'],
      [9, 'new'],
    ]);
    for (const bar of [drawn.before, drawn.after])
      expect(bar.reduce((sum, { sectorCount }) => sum + sectorCount, 0)).toBe(splitDisk.sectorCount);
  });
});

describe('a plan that erases', () => {
  it('draws what goes as erased and what comes as new, though the numbers are the same', () => {
    const installer = [{ purpose: 'efi' as const, sizeBytes: 260 * mib }];
    const outcome = planLayout(tableFromSurvey(splitDisk), { kind: 'standard', installer });
    if (!outcome.ok) throw new Error();
    const drawn = segmentsOfPlan(outcome.value);
    const fateOf = (bar: typeof drawn.before) =>
      bar.find(({ startLba, kind }) => kind === 'partition' && startLba === 277 * unit)?.fate;
    expect([fateOf(drawn.before), fateOf(drawn.after)]).toEqual(['erased', 'new']);
  });
});

describe('the sizes that can be asked for', () => {
  it('stop at used bytes and a tenth, and at the last MiB, and say why', () => {
    const range = sizeRange(tableFromSurvey(splitDisk), { kind: 'split' });
    if (!range.ok) throw new Error(range.problems[0]?.sentence);
    // 40 GB and a tenth are 44,000,000,000 bytes = 41,961.7 MiB: 41,962 MiB are left.
    expect(range.value.minBytes).toBe(41_962 * mib);
    expect(range.value.minBecause).toContain('40.0 GB (37.3 GiB) in use');
    // One MiB more, and nothing would be left for data.
    for (const [systemBytes, ok] of [
      [range.value.maxBytes, true],
      [range.value.maxBytes + mib, false],
      [range.value.minBytes, true],
      [range.value.minBytes - mib, false],
    ] as const)
      expect(planLayout(tableFromSurvey(splitDisk), { kind: 'split', systemBytes }).ok).toBe(ok);
  });

  it('are not there for a goal that takes what there is', () => {
    expect(sizeRange(tableFromSurvey(splitDisk), { kind: 'wipe' }).ok).toBe(false);
  });
});

describe('boxes', () => {
  it('say what to type in the unit that the box means', () => {
    const typed = (unitOfBox: 'MiB' | 'MB' | 'GiB' | 'GB') => {
      const box = sizeBox(90 * 1024 ** 3, [100 * mib], unitOfBox);
      if (!box.ok) throw new Error();
      return [box.value.type, box.value.systemBytes >= 90 * 1024 ** 3] as const;
    };
    // 90 × 1,024 + 100 = 92,260 MiB = 96,741,621,760 bytes: 96,741.6 MB, 90.098 GiB, 96.742 GB, each rounded up.
    expect(typed('MiB')).toEqual(['92260', true]);
    expect(typed('MB')).toEqual(['96742', true]);
    expect(typed('GiB')).toEqual(['90.1', true]);
    expect(typed('GB')).toEqual(['96.75', true]);
  });

  it('never leave less than a shrink dialog was to leave', () => {
    const box = shrinkBox(100 * 1024 ** 3, 60 * 1024 ** 3, 'GB');
    if (!box.ok) throw new Error();
    // 40 GiB are 42.949 GB: 42.94 is typed, 40,950 MiB go (42,940,000,000 ÷ 1,048,576 = 40,950.8).
    expect(box.value).toEqual({
      unit: 'GB',
      type: '42.94',
      takenBytes: 40_950 * mib,
      leftBytes: 100 * 1024 ** 3 - 40_950 * mib,
    });
    expect(codesOf(shrinkBox(1024 ** 3, 1024 ** 3))).toEqual(['nothing-to-take']);
    expect(codesOf(shrinkBox(1024 ** 3, 0))).toEqual(['size-too-small']);
  });

  it('never say 0: what a unit cannot say is refused', () => {
    const gib = 1024 ** 3;
    const box = shrinkBox(100 * gib, 100 * gib - 5 * mib, 'GiB');
    expect(!box.ok && box.problems[0]?.code).toBe('less-than-the-box');
    expect(shrinkBox(100 * gib, 100 * gib - 5 * mib, 'MiB')).toMatchObject({
      ok: true,
      value: { type: '5' },
    });
  });

  it('tell both meanings of a number apart', () => {
    // 90 × (1,073,741,824 − 1,000,000,000).
    expect(bothMeanings(90)).toEqual({
      number: 90,
      decimalBytes: 90_000_000_000,
      binaryBytes: 96_636_764_160,
      differenceBytes: 6_636_764_160,
    });
  });
});
