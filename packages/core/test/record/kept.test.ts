import { describe, expect, it } from 'vitest';
import { beforeSignOff, chooseRoute, handoverSheet, ownerSheet, plan, type Move } from '../../src/record';
import { withFacts } from '../../src/survey';
import { comparedMove } from '../fixtures/compared';
import { codesOf, done, emptyMove, endedLaptop, laptop, technician } from '../fixtures/shop';
import { reconciled } from '../fixtures/said';
import { planned, saved } from '../fixtures/story';

describe('the hand-over sheet', () => {
  it('says of each data set what its own comparison found, and of others that they were not counted', () => {
    const move: Move = {
      ...saved(),
      reconciled: [{ ...reconciled({ same: 7, merged: 2 }), dataSetId: 'pictures' }],
    };
    const after = new Map(
      handoverSheet(move, technician).files.map((line) => [line.name, line.after] as const),
    );
    const [documents, pictures] = move.dataSets;
    expect(after.get(documents?.name ?? '')).toBe('not counted');
    expect(after.get(pictures?.name ?? '')).toBe('7 the same, 2 merged');
  });
});

describe('a disk that the route cannot write to', () => {
  const refusal = (move: Move, routeId: 'clean-whole-disk' | 'hold') => {
    const refused = chooseRoute(
      move,
      {
        routeId,
        releaseId: routeId === 'hold' ? null : 'corvel-10-business',
        reason: 'Agreed with the owner.',
        disk: { name: 'sdz', serial: 'NOT-THERE' },
      },
      technician,
    );
    return refused.ok ? 'chosen' : refused.problems.map(({ sentence }) => sentence).join(' ');
  };

  it('is refused with those that it can write to, or with none', () => {
    expect(refusal({ ...emptyMove, facts: laptop }, 'clean-whole-disk')).toBe(
      'This route cannot write to that disk: it can write to …9C2E.',
    );
    expect(refusal({ ...emptyMove, facts: endedLaptop }, 'hold')).toBe(
      'This route cannot write to that disk: it can write to none.',
    );
  });
});

describe('before the owner signs', () => {
  it('every file is accounted for where something was written, and only there', () => {
    expect(codesOf({ ok: false, problems: beforeSignOff(planned()) })).toContain('files-open');
    const held = done(
      plan(
        done(
          chooseRoute(
            { ...saved(), facts: endedLaptop },
            { routeId: 'hold', releaseId: null, reason: 'Nobody has time.' },
            technician,
          ),
        ),
        technician,
      ),
    );
    expect(held.dataSets.length).toBeGreaterThan(0);
    expect(held.plan?.runbook.lineIndex).toBeNull();
    expect(codesOf({ ok: false, problems: beforeSignOff(held) })).not.toContain('files-open');
  });
});

describe('what the owner finds different', () => {
  const sheetOf = (releaseId: string | null, presentRelease: string) => {
    const move = comparedMove({ a: '1' }, { a: '1' });
    return ownerSheet(
      {
        ...move,
        facts: withFacts(laptop, { presentRelease }),
        decision: move.decision && { ...move.decision, releaseId },
      },
      technician,
      {
        files: [],
        fileCount: 0,
        organisation: 'Marram Coast Ferries',
        today: '2026-03-02',
        record: { number: 12, code: 'ca864733ce015b52' },
      },
    ).different;
  };
  const looks = 'The desktop and the programs of the system look different.';

  it('is the desktop where the family is another one, and only then', () => {
    expect(sheetOf('saltbush-full', 'corvel-8-business')).toContain(looks);
    expect(sheetOf('corvel-10-business', 'corvel-8-business')).not.toContain(looks);
    // Of a target or a present system that nobody knows, nothing is said.
    expect(sheetOf('saltbush-full', 'not-in-the-catalogue')).not.toContain(looks);
    expect(sheetOf(null, 'corvel-8-business')).not.toContain(looks);
  });
});
