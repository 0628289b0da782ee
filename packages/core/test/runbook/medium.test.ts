import { describe, expect, it } from 'vitest';
import { buildRunbook } from '../../src/runbook';
import { nothingPrepared } from '../../src/runbook/preparation';
import type { MediumContent } from '../../src/backup';
import { defaultHouseRules, type HouseRules } from '../../src/rules';
import { catalogue, inputFor, releaseOf } from '../fixtures/shop';

const mark = { at: '2026-03-01T09:00:00.000Z', by: 'lead' };
const holds: MediumContent = {
  releaseId: 'corvel-10-business',
  title: 'Corvel 10 Business',
  mode: 'uefi',
  scheme: 'gpt',
  bytes: 6_240_000_000,
  skips: [],
  writtenOn: '2026-02-27',
  by: 'Ines Carrow',
  check: { result: 'compared', ...mark },
};

/** The steps that get the installer, of a clean install. */
function steps(
  releaseId: string,
  {
    rules = {},
    preparation = {},
    ...change
  }: Omit<NonNullable<Parameters<typeof inputFor>[2]>, 'preparation'> & {
    readonly rules?: Partial<HouseRules>;
    readonly preparation?: Partial<typeof nothingPrepared>;
  } = {},
) {
  const built = buildRunbook(
    inputFor('clean-whole-disk', releaseId, {
      ...change,
      houseRules: { ...defaultHouseRules, ...rules },
      preparation: { ...nothingPrepared, ...preparation },
    }),
  );
  if (!built.ok) throw new Error(built.problems[0]?.sentence);
  return built.value.steps.filter(({ kind }) => kind === 'fetch-image' || kind === 'write-stick');
}

const only = (found: ReturnType<typeof steps>, kind: string) => found.find((step) => step.kind === kind);

describe('the image', () => {
  it('is fetched before it is written, unless the maker’s tool fetches it or it is at hand', () => {
    const kinds = (found: ReturnType<typeof steps>) => found.map(({ kind }) => kind);
    expect(kinds(steps('corvel-10-business'))).toEqual(['write-stick']);
    const writer = { rules: { stickTool: 'image-writer' as const } };
    expect(kinds(steps('corvel-10-business', writer))).toEqual(['fetch-image', 'write-stick']);
    const image = { releaseId: 'corvel-10-business', keptWhere: 'Pier store', ...mark };
    expect(kinds(steps('corvel-10-business', { ...writer, preparation: { image } }))).toEqual([
      'write-stick',
    ]);
    const other = { ...image, releaseId: 'corvel-9-business' };
    expect(kinds(steps('corvel-10-business', { ...writer, preparation: { image: other } }))).toHaveLength(2);
  });

  it('takes as long as the line of the site makes it: 6 240 MB over 20 Mbit/s are 42 minutes', () => {
    const rules = { stickTool: 'image-writer' as const };
    const fetch = only(steps('corvel-10-business', { rules, line: 20 }), 'fetch-image');
    // 49 920 Mbit ÷ 20 = 2 496 s = 41.6 min; a fifth faster at best, half as fast at worst.
    expect(fetch?.waiting).toEqual({ low: 35, likely: 42, high: 83 });
    expect(fetch?.why).toContain('The line carries 20 Mbit/s, about 42 min.');
    const unknown = only(steps('corvel-10-business', { rules }), 'fetch-image');
    expect(unknown?.waiting.likely).toBe(17);
    expect(unknown?.why).toContain('is not known: calculated with 50 Mbit/s');
  });

  it('is named with source, second source, language, bytes and checksum', () => {
    const fetch = only(steps('corvel-10-business', { rules: { stickTool: 'image-writer' } }), 'fetch-image');
    expect(fetch?.why).toMatch(
      /^English, 64-bit\. From https:\/\/images\.corvel\.example\/\S+; if that does not load or breaks off: https:\/\/pier/,
    );
    expect(fetch?.success).toContain('6,240,000,000 bytes');
    expect(fetch?.troubles).toEqual(['page-does-not-load', 'download-broken-off', 'checksum-differs']);
  });
});

describe('the stick', () => {
  it('is written in the way that can do the job, and says why not in the house’s', () => {
    const why = (stickTool: HouseRules['stickTool'], change: Parameters<typeof steps>[1] = {}) =>
      only(
        steps('corvel-10-business', { families: catalogue.families, ...change, rules: { stickTool } }),
        'write-stick',
      )?.why;
    expect(why('by-hand')).toContain('By hand: a new GPT, one partition, FAT32;');
    const named = { ...releaseOf('corvel-10-business'), volumeName: 'CORVEL 10' };
    expect(why('by-hand', { release: named })).toContain('FAT32, its volume called “CORVEL 10”;');
    // The commands of the family that runs on the bench, with the table filled in; active is for MBR only.
    const corvel = catalogue.families.find(({ id }) => id === 'corvel');
    expect(corvel?.stickCommands.length).toBeGreaterThan(4);
    for (const { does, type } of corvel?.stickCommands ?? []) {
      const isForMbr = type.includes('{active}');
      expect([does, why('by-hand')?.includes(`${does}:`)]).toEqual([does, !isForMbr]);
      if (!isForMbr) expect(why('by-hand')).toContain(`${does}: ${type.replace('{scheme}', 'gpt')}`);
    }
    expect(why('image-writer')).not.toContain('Typed on a computer');
    expect(why('by-hand')).toContain('The partition that starts stays FAT32');
    expect(why('official', { waivers: ['tpm'] })).toMatch(
      /^Not with the maker’s own tool: the maker’s tool cannot leave checks out\. With the image writer/,
    );
  });

  it('of the shelf is taken and not written, while it is what the move needs', () => {
    const taken = { name: 'S-03', serial: 'KST-16-00C7', holds };
    const found = steps('corvel-10-business', { preparation: { stick: taken } });
    expect(found.map(({ title, handsOn, waiting }) => [title, handsOn.likely, waiting.likely])).toEqual([
      ['Take stick S-03 from the shelf: Corvel 10 Business is on it', 1, 0],
    ]);
    expect(found[0]?.success).toContain('ends with 00C7');
    for (const change of [
      { holds: { ...holds, check: null } },
      { holds: { ...holds, mode: 'legacy' as const } },
      { holds: { ...holds, releaseId: 'corvel-9-business' } },
      { holds: { ...holds, skips: ['tpm' as const] } },
    ])
      expect(
        only(steps('corvel-10-business', { preparation: { stick: { ...taken, ...change } } }), 'write-stick')
          ?.title,
      ).toBe('Write Corvel 10 Business to the installer stick');
  });
});
