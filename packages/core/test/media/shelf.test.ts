import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Drive, MediumContent } from '../../src/backup';
import {
  canBeWritten,
  contentFits,
  serveNeeds,
  servings,
  tagOf,
  type MediumNeed,
  type Serving,
} from '../../src/media';

const releases = ['saltbush-full', 'corvel-10-business', 'rushlight'] as const;
const uuid = (index: number) => `5f0d6f0e-1b55-4c1f-9a37-${String(index).padStart(12, '0')}`;

function stick(index: number, change: Partial<Drive> = {}): Drive {
  return {
    id: uuid(index),
    name: `S-${index}`,
    kind: 'stick',
    purpose: 'installer',
    serial: `SER-${index}`,
    capacityBytes: 30_000_000_000,
    otherBytes: 0,
    fileSystem: 'fat32',
    link: 'usb3',
    medium: 'stick',
    health: 'good',
    note: '',
    holds: [],
    seenOn: '2026-03-01',
    seenAt: 'Lowholm',
    ...change,
  };
}

function holding(change: Partial<MediumContent> = {}): MediumContent {
  return {
    releaseId: 'saltbush-full',
    title: 'Saltbush Full',
    mode: 'uefi',
    scheme: 'gpt',
    bytes: 3_000_000_000,
    skips: [],
    writtenOn: '2026-02-20',
    by: 'lead',
    check: { result: 'compared', at: '2026-02-20T10:00:00.000Z', by: 'lead' },
    ...change,
  };
}

function need(index: number, change: Partial<MediumNeed> = {}): MediumNeed {
  return {
    reference: `MV-${String(index).padStart(4, '0')}`,
    kind: 'stick',
    releaseId: 'saltbush-full',
    title: 'Saltbush Full',
    mode: 'uefi',
    skips: [],
    bytesNeeded: 4_000_000_000,
    imageBytes: 3_000_000_000,
    dueOn: '2026-03-10',
    named: null,
    ...change,
  };
}

const serve = (
  media: readonly Drive[],
  needs: readonly MediumNeed[],
  imagesAtHand: readonly string[] = ['saltbush-full'],
) => serveNeeds({ media, needs, imagesAtHand: new Set(imagesAtHand) });

const brief = ({ need: { reference }, how, driveId, again }: Serving) => [
  reference,
  how,
  driveId === null ? null : Number(driveId.slice(-12)),
  again,
];

describe('which medium serves a move', () => {
  it('is one that has the installer, compared, and the next move takes the same one', () => {
    const media = [
      stick(1),
      stick(2, { holds: [holding({ check: null })] }),
      stick(3, { holds: [holding()] }),
    ];
    expect(serve(media, [need(1), need(2)]).map(brief)).toEqual([
      ['MV-0001', 'as-it-is', 3, false],
      ['MV-0002', 'as-it-is', 3, true],
    ]);
  });

  it('is compared first when nobody has read it back: 3 000 MB at 25 MB/s take 2 minutes', () => {
    const [only] = serve([stick(1), stick(2, { holds: [holding({ check: null })] })], [need(1)]);
    expect(only && [...brief(only), only.minutes]).toEqual(['MV-0001', 'compare-first', 2, false, 2]);
  });

  it('is never one that was found to differ, is of another mode, or skips other checks', () => {
    const differs = { result: 'differs' as const, at: '2026-02-20T10:00:00.000Z', by: 'lead' };
    for (const content of [
      holding({ check: differs }),
      holding({ mode: 'legacy' }),
      holding({ skips: ['tpm'] }),
      holding({ releaseId: 'rushlight' }),
    ]) {
      const [only] = serve([stick(1, { holds: [content] })], [need(1)]);
      expect(only?.how).toBe('write-first');
    }
    const [both] = serve([stick(1, { holds: [holding({ mode: 'both' })] })], [need(1, { mode: 'legacy' })]);
    expect(both?.how).toBe('as-it-is');
    const waived = need(1, { skips: ['tpm', 'memory'] });
    const [skipping] = serve([stick(1, { holds: [holding({ skips: ['memory', 'tpm'] })] })], [waived]);
    expect(skipping?.how).toBe('as-it-is');
    const [fewer] = serve([stick(1, { holds: [holding({ skips: ['memory'] })] })], [waived]);
    expect(fewer?.how).toBe('write-first');
  });

  it('writes the smallest free stick that holds it, an unread one last, and not what another move takes', () => {
    const media = [
      stick(1, { holds: [holding()] }),
      stick(2, { capacityBytes: 60_000_000_000 }),
      stick(3, { capacityBytes: 8_000_000_000, seenOn: null }),
      stick(4, { capacityBytes: 16_000_000_000 }),
      stick(5, { capacityBytes: 3_900_000_000 }),
    ];
    const other = { releaseId: 'rushlight', title: 'Rushlight' };
    expect(
      serve(media, [need(1, other), need(2), need(3, other), need(4, { ...other, mode: 'legacy' })]).map(
        brief,
      ),
    ).toEqual([
      ['MV-0001', 'fetch-first', 4, false],
      ['MV-0002', 'as-it-is', 1, false],
      // Written for the first one, and the third takes it as well.
      ['MV-0003', 'fetch-first', 4, true],
      ['MV-0004', 'fetch-first', 2, false],
    ]);
  });

  it('is the stick that was named on Prepare, by its serial number', () => {
    const media = [stick(1, { holds: [holding()] }), stick(2, { holds: [holding()] }), stick(3), stick(4)];
    const named = (index: number) => ({ named: { name: 'old label', serial: `SER-${index}` } });
    expect(serve(media, [need(1, named(2))]).map(brief)).toEqual([['MV-0001', 'as-it-is', 2, false]]);
    expect(serve(media, [need(1, { releaseId: 'x', ...named(4) })]).map(brief)).toEqual([
      ['MV-0001', 'fetch-first', 4, false],
    ]);
  });

  it('keeps discs and sticks apart, and says what is missing', () => {
    const disc = stick(1, { kind: 'disc', holds: [holding()] });
    expect(serve([disc], [need(1)]).map(brief)).toEqual([['MV-0001', 'none', null, false]]);
    expect(serve([disc], [need(1, { kind: 'disc' })]).map(brief)).toEqual([
      ['MV-0001', 'as-it-is', 1, false],
    ]);
    expect(serve([stick(1)], [need(1, { kind: 'disc' })])[0]?.sentence).toContain('Burn Saltbush Full');
    expect(serve([stick(1, { capacityBytes: 3_000_000_000 })], [need(1)])[0]?.sentence).toBe(
      'No free stick holds it: 4.0 GB are needed.',
    );
  });

  it('on any shelf: nothing is overwritten that a move takes, nothing too small, no backup, no failing stick', () => {
    const seen = Object.fromEntries(servings.map((how) => [how, 0]));
    let again = 0;
    const anyContent = fc.record({
      releaseId: fc.constantFrom(...releases),
      mode: fc.constantFrom('uefi' as const, 'legacy' as const, 'both' as const),
      check: fc.constantFrom(
        null,
        ...(['compared', 'sampled', 'differs'] as const).map((result) => ({
          result,
          at: '2026-02-20T10:00:00.000Z',
          by: 'lead',
        })),
      ),
      skips: fc.constantFrom<MediumContent['skips'][]>([], [], ['tpm']),
    });
    const anyMedium = fc.record({
      kind: fc.constantFrom('stick' as const, 'stick' as const, 'disc' as const, 'drive' as const),
      purpose: fc.constantFrom('installer' as const, 'installer' as const, 'backup' as const),
      health: fc.constantFrom('good' as const, 'good' as const, 'failing' as const),
      capacityBytes: fc.constantFrom(3_900_000_000, 8_000_000_000, 31_000_000_000),
      seenOn: fc.constantFrom('2026-03-01', null),
      contents: fc.array(anyContent, { maxLength: 2 }),
    });
    const anyNeed = fc.record({
      kind: fc.constantFrom('stick' as const, 'stick' as const, 'disc' as const),
      releaseId: fc.constantFrom(...releases),
      mode: fc.constantFrom('uefi' as const, 'legacy' as const, 'unknown' as const),
      skips: fc.constantFrom<MediumNeed['skips'][]>([], [], ['tpm']),
      bytesNeeded: fc.constantFrom(4_000_000_000, 7_000_000_000, 20_000_000_000),
    });
    fc.assert(
      fc.property(
        fc.array(anyMedium, { maxLength: 6 }),
        fc.array(anyNeed, { maxLength: 6 }),
        fc.subarray([...releases]),
        (shelf, asked, at) => {
          const media = shelf.map(({ contents, ...medium }, index) =>
            stick(index + 1, { ...medium, holds: contents.map((content) => holding(content)) }),
          );
          const needs = asked.map((one, index) => need(index + 1, one));
          const found = serve(media, needs, at);
          expect(found.map((one) => one.need)).toEqual(needs);
          const kept = new Set(found.filter(({ content }) => content !== null).map(({ driveId }) => driveId));
          const writtenFor = new Map<string, MediumNeed>();
          for (const { need: one, how, driveId, content, ...rest } of found) {
            seen[how] = (seen[how] ?? 0) + 1;
            if (rest.again) again += 1;
            const drive = media.find(({ id }) => id === driveId);
            const ready = media.some(
              (other) =>
                other.purpose === 'installer' &&
                (other.kind === 'disc') === (one.kind === 'disc') &&
                other.holds.some((held) => held.check?.result === 'compared' && contentFits(held, one)),
            );
            // What is ready is never written again.
            expect(how === 'as-it-is').toBe(ready);
            if (how === 'none') {
              expect(driveId).toBeNull();
              continue;
            }
            expect(drive?.purpose).toBe('installer');
            if (content) {
              expect(drive?.holds).toContain(content);
              expect(contentFits(content, one) && content.check?.result !== 'differs').toBe(true);
              continue;
            }
            if (!drive) throw new Error('a medium that is not there');
            expect(canBeWritten(drive) && drive.capacityBytes >= one.bytesNeeded).toBe(true);
            expect(kept.has(drive.id)).toBe(false);
            expect(how === 'write-first').toBe(at.includes(one.releaseId as (typeof releases)[number]));
            // One stick is written once: whoever takes it later needs just that.
            const before = writtenFor.get(drive.id);
            expect(before === undefined).toBe(!rest.again);
            if (before) expect([before.releaseId, before.skips]).toEqual([one.releaseId, one.skips]);
            writtenFor.set(drive.id, before ?? one);
          }
          for (const drive of media) {
            const tag = tagOf(drive, found);
            expect(tag.references).toEqual(
              found.filter(({ driveId }) => driveId === drive.id).map(({ need: { reference } }) => reference),
            );
            if (tag.detail === 'may be overwritten')
              expect([tag.references.length, canBeWritten(drive)]).toEqual([0, true]);
          }
        },
      ),
      { numRuns: 1500 },
    );
    for (const how of servings) expect([how, (seen[how] ?? 0) > 30]).toEqual([how, true]);
    expect(again).toBeGreaterThan(30);
  });
});

describe('the tag of a medium', () => {
  it('says who needs it and after which task, or that nobody does', () => {
    const media = [
      stick(1, { holds: [holding()] }),
      stick(2),
      stick(3, { seenOn: null }),
      stick(4, {
        holds: [
          holding({
            releaseId: 'x',
            check: { result: 'differs', at: '2026-02-20T10:00:00.000Z', by: 'lead' },
          }),
        ],
      }),
      stick(5, { kind: 'disc', holds: [holding({ releaseId: 'y' })] }),
      stick(6, { holds: [holding({ releaseId: 'z' })] }),
    ];
    const needs = [need(1), need(2), need(3, { releaseId: 'rushlight', title: 'Rushlight' })];
    const found = serve(media, needs);
    expect(
      media.map((drive) => tagOf(drive, found)).map(({ kind, head, detail }) => [kind, head, detail]),
    ).toEqual([
      ['ready', 'MV-0001, due 2026-03-10', 'then MV-0002'],
      ['task', 'MV-0003, due 2026-03-10', 'gets Rushlight, image first'],
      ['unread', 'No move', 'plug it in and look'],
      ['differs', 'No move', 'Saltbush Full: do not use'],
      ['free', 'No move needs it', 'closed'],
      ['free', 'No move needs it', 'may be overwritten'],
    ]);
  });
});
