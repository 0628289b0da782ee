import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { assess, bestVerdict, fixOf, partTitle, rankFixes, verdicts, worstVerdict } from '../../src/assess';
import { findModel } from '../../src/catalogue';
import { withFacts, systemDisk, valueOf, type Facts } from '../../src/survey';
import { anyDevice } from '../fixtures/devices';
import { catalogue, laptopWith, releaseOf, splitDisk } from '../fixtures/shop';

const contextOf = (facts: Facts) => ({
  facts,
  model: findModel(catalogue, valueOf(facts, 'maker'), valueOf(facts, 'model'), valueOf(facts, 'year')).model,
});

describe('a fix', () => {
  it('makes its own requirement met, and no other judgement worse', () => {
    const seen = new Map<string, number>();
    fc.assert(
      fc.property(
        anyDevice,
        fc.constantFrom(...catalogue.releases),
        fc.constantFrom('none', 'small disk', 'no network'),
        (given, release, lack) => {
          const facts =
            lack === 'none'
              ? given
              : lack === 'no network'
                ? withFacts(given, { networkAdapters: [] })
                : withFacts(given, { disks: [{ ...splitDisk, sectorCount: 20_000_000, partitions: [] }] });
          const context = contextOf(facts);
          const { judgements } = assess(release, context);
          for (const judgement of judgements) {
            const fix = fixOf(judgement, release, context);
            expect(fix !== undefined).toBe(judgement.verdict === 'fixable');
            if (!fix) continue;
            const after = assess(release, contextOf(withFacts(facts, fix.gives(facts)))).judgements;
            expect([fix.id, after.find(({ rule }) => rule === judgement.rule)?.verdict]).toEqual([
              fix.id,
              'meets',
            ]);
            for (const [index, { rule, verdict }] of after.entries())
              expect([rule, worstVerdict([judgements[index] ?? { verdict: 'meets' }, { verdict }])]).toEqual([
                rule,
                judgements[index]?.verdict,
              ]);
            seen.set(judgement.rule, (seen.get(judgement.rule) ?? 0) + 1);
          }
        },
      ),
      { numRuns: 1500, seed: 8 },
    );
    expect([...seen.keys()].toSorted()).toEqual([
      'firmware-mode',
      'memory',
      'secure-boot',
      'setup-network',
      'system-disk',
      'tpm',
    ]);
    for (const [rule, count] of seen) expect(count, rule).toBeGreaterThan(10);
  });

  it('of the chip gives the version that the model carries, and no older one than asked for', () => {
    const release = {
      ...releaseOf('corvel-10-business'),
      requirements: [{ kind: 'tpm' as const, minimum: '1.2' as const }],
    };
    const chipAfter = (device: { maker?: string; model?: string; year?: number }) => {
      const facts = laptopWith({ device, firmware: { mode: 'uefi', tpm: 'present-off' } });
      const context = contextOf(facts);
      const [judgement] = assess(release, context).judgements;
      return judgement && fixOf(judgement, release, context)?.gives(facts);
    };
    expect(chipAfter({ maker: 'Kestle', model: 'Fenwright 14', year: 2017 })).toEqual({ tpm: '2.0' });
    expect(chipAfter({ maker: 'Kestle', model: 'Fenwright 11', year: 2013 })).toEqual({ tpm: '1.2' });
    expect(chipAfter({})).toEqual({ tpm: '1.2' });
  });

  it('of the disk fits the disk of the system, and leaves the others', () => {
    const other = { ...splitDisk, name: 'sdb', serial: 'OTHER-1', partitions: [] };
    const facts = laptopWith({ disks: [{ ...splitDisk, sectorCount: 60_000_000, rotational: true }, other] });
    const release = releaseOf('corvel-10-business');
    const context = contextOf(facts);
    const judgement = assess(release, context).judgements.find(({ rule }) => rule === 'system-disk');
    const disks = judgement && fixOf(judgement, release, context)?.gives(facts).disks;
    const needed = release.requirements.find(({ kind }) => kind === 'system-disk');
    const bytes = needed?.kind === 'system-disk' ? needed.minimumBytes : 0;
    expect(systemDisk(disks)).toMatchObject({ rotational: false, sectorCount: Math.ceil(bytes / 512) });
    expect(disks?.[1]).toEqual(other);
  });
});

describe('fixes for several releases', () => {
  const fix = (id: string, cost: number, handsOnMinutes: number) => ({
    id,
    action: id,
    cost,
    handsOnMinutes,
  });
  const judged = (releaseId: string, verdict: 'fixable' | 'fails', ...fixes: ReturnType<typeof fix>[]) => ({
    releaseId,
    verdict,
    fixMinutes: 0,
    fixCost: 0,
    judgements: [
      { rule: 'cores' as const, verdict: 'meets' as const, facts: [], sentence: '' },
      ...fixes.map((one) => ({
        rule: 'tpm' as const,
        verdict: 'fixable' as const,
        facts: [],
        sentence: '',
        fix: one,
      })),
    ],
  });

  it('count where nothing else is in the way, and once a release', () => {
    const chip = fix('chip', 0, 4);
    expect(rankFixes([judged('a', 'fails', chip)])).toEqual([]);
    // Two requirements that ask for the same fix: it alone unlocks the release.
    expect(rankFixes([judged('a', 'fixable', chip, chip)])).toEqual([{ ...chip, unlocks: ['a'], helps: [] }]);
  });

  it('are in order of what they unlock, help with, cost and take, then of their names', () => {
    const order = (...assessments: ReturnType<typeof judged>[]) => rankFixes(assessments).map(({ id }) => id);
    expect(
      order(
        judged('a', 'fixable', fix('x', 0, 1)),
        judged('b', 'fixable', fix('y', 9, 9)),
        judged('c', 'fixable', fix('y', 9, 9)),
      ),
    ).toEqual(['y', 'x']);
    expect(order(judged('a', 'fixable', fix('x', 9, 9), fix('y', 0, 9)))).toEqual(['y', 'x']);
    expect(order(judged('a', 'fixable', fix('x', 5, 9), fix('y', 5, 1)))).toEqual(['y', 'x']);
    expect(order(judged('a', 'fixable', fix('y', 5, 5), fix('x', 5, 5)))).toEqual(['x', 'y']);
    // Helping with two comes before being cheap.
    expect(
      order(
        judged('a', 'fixable', fix('x', 9, 9), fix('y', 0, 1)),
        judged('b', 'fixable', fix('x', 9, 9), fix('z', 0, 1)),
      )[0],
    ).toBe('x');
  });

  it('name their parts as a shop does, rounded up', () => {
    expect(partTitle({ kind: 'memory', sizeBytes: 8 * 1024 ** 3 })).toBe('8 GB memory module');
    expect(partTitle({ kind: 'memory', sizeBytes: 7.2 * 1024 ** 3 })).toBe('8 GB memory module');
    expect(partTitle({ kind: 'solid-state disk', sizeBytes: 63_500_000_000 })).toBe(
      'solid-state disk of 64 GB or more',
    );
    expect(partTitle({ kind: 'network adapter' })).toBe('USB network adapter');
  });
});

describe('the worst and the best of several', () => {
  it('are the two ends of the same order, whatever stands between', () => {
    let counted = 0;
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...verdicts), { minLength: 1, maxLength: 6 }), (list) => {
        const places = list.map((verdict) => verdicts.indexOf(verdict)).toSorted((a, b) => a - b);
        expect(bestVerdict(list)).toBe(verdicts[places[0] ?? -1]);
        expect(worstVerdict(list.map((verdict) => ({ verdict })))).toBe(verdicts[places.at(-1) ?? -1]);
        counted += 1;
      }),
    );
    expect(counted).toBeGreaterThan(50);
    expect(bestVerdict([])).toBe('fails');
    expect(verdicts[0]).toBe('meets');
    expect(verdicts.at(-1)).toBe('fails');
  });
});
