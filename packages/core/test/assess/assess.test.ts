import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { assess, worstVerdict, type Judgement, type Verdict } from '../../src/assess';
import { findModel } from '../../src/catalogue';
import { valueOf, type Facts } from '../../src/survey';
import { catalogue, laptop, laptopWith, releaseOf, splitDisk, without } from '../fixtures/shop';

const modelOf = (facts: Facts) =>
  findModel(catalogue, valueOf(facts, 'maker'), valueOf(facts, 'model'), valueOf(facts, 'year')).model;
const judge = (facts: Facts, release: string) => assess(releaseOf(release), { facts, model: modelOf(facts) });
const of = (facts: Facts, release: string, rule: Judgement['rule']) =>
  judge(facts, release).judgements.find((judgement) => judgement.rule === rule);

describe('requirement by requirement', () => {
  it('finds the bench laptop fixable for Corvel 10: Secure Boot and the chip, four minutes each', () => {
    const assessment = judge(laptop, 'corvel-10-business');
    expect(assessment.verdict).toBe('fixable');
    expect(
      assessment.judgements.filter(({ verdict }) => verdict === 'fixable').map(({ rule }) => rule),
    ).toEqual(['secure-boot', 'tpm']);
    expect(assessment.fixMinutes).toBe(8);
    expect(assessment.fixCost).toBe(0);
  });

  it('calls a chip that is there and off fixable, not failed', () => {
    expect(of(laptop, 'corvel-10-business', 'tpm')?.verdict).toBe('fixable');
  });

  it('calls an old chip waivable, with what skipping costs', () => {
    const facts = laptopWith({ firmware: { mode: 'uefi', secureBoot: 'on', tpm: '1.2' } });
    expect(of(facts, 'corvel-10-business', 'tpm')).toMatchObject({
      verdict: 'waivable',
      consequence: expect.stringContaining('no promised fixes'),
    });
  });

  it('fails a 32-bit processor for a 64-bit system', () => {
    expect(of(laptopWith({ processor: { wordBits: 32 } }), 'corvel-10-business', 'word-size')?.verdict).toBe(
      'fails',
    );
  });

  it('counts 7.6 GiB as 8: firmware keeps a part', () => {
    // 8 GiB × 0.93 = 7.44 GiB.
    expect(
      of(laptopWith({ memoryBytes: Math.round(7.6 * 1024 ** 3) }), 'corvel-10-business', 'memory')?.verdict,
    ).toBe('meets');
    expect(
      of(laptopWith({ memoryBytes: Math.round(7.2 * 1024 ** 3) }), 'corvel-10-business', 'memory')?.verdict,
    ).toBe('fixable');
  });

  it('knows from the model whether more memory fits', () => {
    const small = {
      device: { maker: 'Kestle', model: 'Fenwright 11', year: 2013 },
      memoryBytes: 2 * 1024 ** 3,
    };
    expect(of(laptopWith(small), 'harrow-5', 'memory')?.verdict).toBe('fails');
    // Its board takes no more than 4 GiB: enough for Saltbush, too little for Corvel 10, which can be told to skip.
    expect(of(laptopWith(small), 'corvel-10-business', 'memory')?.verdict).toBe('waivable');
    expect(of(laptopWith(small), 'saltbush-full', 'memory')?.verdict).toBe('fixable');
    expect(
      of(
        laptopWith({ ...small, device: { maker: 'Kestle', model: 'not in the table' } }),
        'corvel-10-business',
        'memory',
      )?.verdict,
    ).toBe('unknown');
  });

  it('asks for a larger disk where it is too small, and for marks where it cannot be told', () => {
    expect(
      of(
        laptopWith({ disks: [{ ...splitDisk, sectorCount: 60_000_000, partitions: [] }] }),
        'corvel-10-business',
        'system-disk',
      )?.verdict,
    ).toBe('fixable');
    expect(
      of(
        laptopWith({
          disks: [
            { ...splitDisk, partitions: [] },
            { ...splitDisk, name: 'sdb', serial: 'B', partitions: [] },
          ],
        }),
        'corvel-10-business',
        'system-disk',
      )?.verdict,
    ).toBe('unknown');
  });

  it('turns legacy compatibility off, switches a capable model, and fails one that cannot', () => {
    const mode = (maker: string, model: string, year: number, firmware: 'legacy' | 'uefi-with-legacy') =>
      of(
        laptopWith({ device: { maker, model, year }, firmware: { mode: firmware } }),
        'corvel-10-business',
        'firmware-mode',
      )?.verdict;
    expect(mode('Kestle', 'Fenwright 14', 2017, 'uefi-with-legacy')).toBe('fixable');
    expect(mode('Ostley', 'Quern', 2015, 'legacy')).toBe('fixable');
    expect(mode('Draymoor', '260', 2010, 'legacy')).toBe('fails');
    expect(mode('Nobody', 'Nothing', 2015, 'legacy')).toBe('unknown');
  });

  it('keeps a locked family to its maker and its years', () => {
    const pellworth = (year: number) =>
      of(laptopWith({ device: { maker: 'Pellworth', model: 'Studio 27', year } }), 'aurin-14', 'model-range')
        ?.verdict;
    expect(of(laptop, 'aurin-14', 'model-range')?.verdict).toBe('fails');
    expect([pellworth(2015), pellworth(2016)]).toEqual(['fails', 'meets']);
  });

  it('says each verdict in a sentence with the facts that it used', () => {
    for (const { judgements } of catalogue.releases.map(({ id }) => judge(laptop, id)))
      for (const { sentence, facts } of judgements) {
        expect(sentence).toMatch(/\.$/);
        expect(facts.length + Number(sentence.includes('network'))).toBeGreaterThan(0);
      }
  });
});

describe('unknown', () => {
  it('never yields meets or fails: a requirement whose every fact is unknown stays unknown', () => {
    for (const release of catalogue.releases)
      for (const { rule, verdict, howToFind } of assess(release, { facts: {}, model: undefined })
        .judgements) {
        expect([rule, verdict]).toEqual([rule, 'unknown']);
        expect(howToFind?.length).toBeGreaterThan(5);
      }
  });

  it('is what forgetting any one fact turns its judgements into, or leaves them as they were', () => {
    for (const release of catalogue.releases) {
      const before = judge(laptop, release.id).judgements;
      for (const key of [
        'wordBits',
        'cores',
        'clockMhz',
        'cpuFlags',
        'memoryBytes',
        'firmwareMode',
        'secureBoot',
        'tpm',
        'graphicsTier',
        'screenWidth',
        'screenHeight',
        'disks',
        'networkAdapters',
      ] as const) {
        // The model is kept, so that only this one fact is missing.
        const after = assess(release, { facts: without(laptop, key), model: modelOf(laptop) }).judgements;
        after.forEach((judgement, index) => {
          if (judgement.facts.includes(key))
            expect([key, judgement.rule, judgement.verdict]).toEqual([key, judgement.rule, 'unknown']);
          else expect(judgement).toEqual(before[index]);
        });
      }
    }
  });

  it('keeps the whole from being a yes, and one known failure decides all the same', () => {
    expect(worstVerdict([{ verdict: 'meets' }, { verdict: 'unknown' }, { verdict: 'fixable' }])).toBe(
      'unknown',
    );
    expect(worstVerdict([{ verdict: 'unknown' }, { verdict: 'fails' }])).toBe('fails');
    expect(worstVerdict([])).toBe('meets');
  });
});

describe('a better fact', () => {
  const rank: Record<Verdict, number> = { meets: 0, fixable: 1, waivable: 2, fails: 3, unknown: 4 };
  const known = (verdict: Verdict | undefined) => (verdict === undefined ? 0 : rank[verdict]);

  it('never makes a known verdict worse', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...catalogue.releases.map(({ id }) => id)),
        fc.tuple(fc.integer({ min: 1, max: 16 }), fc.integer({ min: 1, max: 16 })),
        fc.tuple(fc.integer({ min: 500, max: 5000 }), fc.integer({ min: 500, max: 5000 })),
        fc.tuple(fc.integer({ min: 256, max: 65_536 }), fc.integer({ min: 256, max: 65_536 })),
        fc.tuple(fc.integer({ min: 0, max: 4 }), fc.integer({ min: 0, max: 4 })),
        (release, cores, clock, memory, tier) => {
          const facts = (pick: (...pair: number[]) => number) =>
            laptopWith({
              processor: {
                wordBits: 64,
                cores: pick(...cores),
                clockMhz: pick(...clock),
                flags: ['sse4_2', 'popcnt', 'avx'],
              },
              memoryBytes: pick(...memory) * 1024 ** 2,
              display: { graphicsTier: pick(...tier), widthPixels: 1366, heightPixels: 768 },
            });
          const worse = judge(facts(Math.min), release).judgements;
          judge(facts(Math.max), release).judgements.forEach(({ verdict }, index) => {
            expect(known(verdict)).toBeLessThanOrEqual(known(worse[index]?.verdict));
          });
        },
      ),
    );
  });
});
