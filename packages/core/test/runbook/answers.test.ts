import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { pageKinds } from '../../src/catalogue';
import { defaultHouseRules, type HouseRules } from '../../src/rules';
import type { RouteId } from '../../src/route';
import {
  answerSheet,
  answerText,
  nothingPrepared,
  planStates,
  sheetLines,
  type RunbookInput,
} from '../../src/runbook';
import { accountName, computerName, languageName } from '../../src/runbook/answers/names';
import { anyPlanInput } from '../fixtures/plans';
import { catalogue, inputFor, laptop, laptopWith, releaseOf, without } from '../fixtures/shop';
import { withFacts, type Facts } from '../../src/survey';

const whose = { site: 'Lowholm', owner: 'Crew room', reference: 'MV-0036' };

const sheetOf = (
  routeId: RouteId,
  releaseId: string,
  rules: Partial<HouseRules> = {},
  more: Partial<RunbookInput> = {},
) => {
  const input = inputFor(routeId, releaseId, { houseRules: { ...defaultHouseRules, ...rules }, ...more });
  const states = planStates(input);
  const sheet = states.ok ? answerSheet(input, states.value, whose) : undefined;
  if (!sheet) throw new Error('no sheet');
  return sheet;
};
type Given = Parameters<typeof sheetOf>;
const page = (kind: string, ...given: Given) => {
  const found = sheetOf(...given).pages.find((one) => one.kind === kind);
  if (!found) throw new Error(`the installer has no page ${kind}`);
  return found;
};

describe('the pages of an installer', () => {
  it('come in the installer’s own order, each with its answer', () => {
    const sheet = sheetOf('clean-whole-disk', 'saltbush-full');
    expect(sheet.pages.map(({ name }) => name)).toEqual(
      releaseOf('saltbush-full').pages.map(({ name }) => name),
    );
    expect(sheet.pages.filter(({ pieces, missing }) => pieces.length === 0 && !missing)).toEqual([]);
  });

  it('are fewer where the system is upgraded', () => {
    const kinds = sheetOf('in-place-upgrade', 'corvel-10-business').pages.map(({ kind }) => kind);
    expect(kinds).toContain('upgrade-or-custom');
    expect(kinds).not.toContain('partitions');
  });

  it('every release of the catalogue says which disk it asks for, and every kind has an answer somewhere', () => {
    for (const { id, pages } of catalogue.releases)
      expect([id, pages.some(({ kind }) => kind === 'disk')]).toEqual([id, true]);
    const seen = new Set(catalogue.releases.flatMap(({ pages }) => pages.map(({ kind }) => kind)));
    expect(pageKinds.filter((kind) => !seen.has(kind))).toEqual([]);
  });

  it('put the Line before the page at which the installer begins to write', () => {
    const sheet = sheetOf('clean-system-partition', 'corvel-10-business');
    expect(sheet.pages[sheet.line?.page ?? -1]?.kind).toBe('partitions');
    expect(sheet.line?.does).toBe('Page 6 deletes SYSTEM.');
    expect(sheet.line?.first).toMatch(/^\d+ gates, disk …9C2E by serial number and size$/);
    const states = planStates(inputFor('clean-system-partition', 'corvel-10-business'));
    const lineIndex = states.ok ? states.value.runbook.lineIndex : null;
    expect(sheet.line?.stepNumber).toBe((lineIndex ?? -2) + 1);
    expect(sheet.line?.stepId).toBe('format-system');
    const upgrade = sheetOf('in-place-upgrade', 'corvel-10-business');
    expect(upgrade.pages[upgrade.line?.page ?? -1]?.kind).toBe('upgrade-or-custom');
  });
});

describe('upgrade or custom', () => {
  const pieces = (...given: Given) =>
    page('upgrade-or-custom', ...given).pieces.map(({ text, as }) => `${as} ${text}`);

  it('strikes what the page opens with where that is wrong, and says what it would do', () => {
    expect(pieces('clean-whole-disk', 'corvel-10-business')).toEqual(['not-picked Upgrade', 'picked Custom']);
    expect(page('upgrade-or-custom', 'clean-whole-disk', 'corvel-10-business').caution).toContain(
      '“Upgrade” is selected when this page opens.',
    );
  });

  it('strikes nothing where the page opens with what is meant', () => {
    expect(pieces('in-place-upgrade', 'corvel-10-business')).toEqual(['picked Upgrade']);
    expect(page('upgrade-or-custom', 'in-place-upgrade', 'corvel-10-business').caution).toBeUndefined();
  });

  it('names what a whole disk would take with it', () => {
    const beside = page('upgrade-or-custom', 'beside-same-disk', 'saltbush-full');
    // 102,400 MiB are 107.4 GB.
    expect(beside.caution).toContain('DATA, 107.4 GB');
    expect(beside.caution).not.toContain('RECOVERY');
  });
});

describe('an answer', () => {
  const clean = (kind: string, rules: Partial<HouseRules> = {}, more: Partial<RunbookInput> = {}) =>
    page(kind, 'clean-whole-disk', 'corvel-10-business', rules, more);

  it('that nobody can give names the fact and how it is found out', () => {
    const facts = without(laptop, 'presentLanguage');
    expect(clean('language', {}, { facts })).toMatchObject({
      pieces: [],
      missing: { fact: 'presentLanguage' },
    });
    expect(clean('key', {}, { facts: without(laptop, 'activation') }).missing?.fact).toBe('activation');
  });

  it('in another language than the present one is said', () => {
    const dutch = clean('language', {}, { facts: withFacts(laptop, { presentLanguage: 'nl' }) });
    expect(answerText(dutch)).toContain('English');
    expect(dutch.caution).toContain('does not come in Dutch');
    expect(clean('language').caution).toBeUndefined();
  });

  it('follows how the licence is held', () => {
    const held = (kind: 'key' | 'digital' | 'volume') =>
      clean('key', {}, { facts: withFacts(laptop, { activation: kind }) });
    expect(held('key')).toMatchObject({ hand: 'type', secret: 'licence-key', from: 'vault' });
    expect(held('digital').secret).toBeUndefined();
    expect(answerText(held('volume'))).toContain('I have no key');
  });

  it('sets up offline where the house does, and says where a release or an account contradicts that', () => {
    expect(answerText(clean('network', { networkDuringSetup: 'offline' }))).toContain('Unplug the cable');
    expect(clean('account', { networkDuringSetup: 'offline', account: 'organisation' }).caution).toContain(
      'needs the network',
    );
    expect(
      clean('account', { networkDuringSetup: 'online', account: 'organisation' }).caution,
    ).toBeUndefined();
    const forced = page('network', 'clean-whole-disk', 'aurin-15', { networkDuringSetup: 'offline' });
    expect(forced.caution).toContain('goes no further without a network');
    // One that can be told to go on without is told so, here and on the page of the account.
    const personal = releaseOf('corvel-10-personal');
    const told = page('network', 'clean-whole-disk', personal.id, { networkDuringSetup: 'offline' });
    expect(answerText(told)).toContain('No network.');
    expect(told.caution).toContain(personal.setUpWithout.find(({ what }) => what === 'network')?.how);
    const own = page('account', 'clean-whole-disk', personal.id, { account: 'local' });
    expect(answerText(own)).toContain('A local account');
    expect(own.caution).toContain(personal.setUpWithout.find(({ what }) => what === 'account')?.how);
    const kept = (kind: 'encryption' | 'privacy', release = personal) =>
      page(kind, 'clean-whole-disk', release.id, { encryption: 'off' }, { release }).caution;
    const how = personal.setUpWithout.find(({ what }) => what === 'encryption')?.how;
    expect(kept('encryption')).toContain(how);
    // Where no page asks, the last one at which something is switched off says it.
    expect(kept('privacy')).toBeUndefined();
    const pages = personal.pages.filter((one) => one.kind !== 'encryption');
    expect(kept('privacy', { ...personal, pages })).toContain(how);
    expect(kept('privacy', releaseOf('corvel-9-business'))).toBeUndefined();
  });

  it('joins a wireless network by commands where the installer has no page for it, the adapter named in them', () => {
    const adapter = (name: string, kind: 'wired' | 'wireless') => laptopWith({ network: [{ name, kind }] });
    const network = (facts: Facts) => page('network', 'clean-whole-disk', 'rushlight', {}, { facts });
    const typedIn = (facts: Facts) =>
      network(facts)
        .pieces.filter(({ as }) => as === 'typed')
        .map(({ text }) => text);
    const commands = releaseOf('rushlight').wirelessCommands.map(({ type }) => type);
    expect(commands.filter((command) => command.includes('{adapter}')).length).toBeGreaterThan(1);
    expect(typedIn(adapter('wl-a', 'wireless'))).toEqual(
      commands.map((command) => command.replace('{adapter}', 'wl-a')),
    );
    expect(network(adapter('wl-a', 'wireless')).secret).toBe('wireless-key');
    expect(typedIn(adapter('en-a', 'wired'))).toEqual([]);
  });

  it('goes online for a release that fetches packages, whatever the house prefers, and says so', () => {
    const own = releaseOf('corvel-10-business');
    const release = { ...own, requirements: [...own.requirements, { kind: 'setup-network' as const }] };
    const offline = clean('network', { networkDuringSetup: 'offline' }, { release });
    expect(answerText(offline)).not.toContain('Unplug');
    expect(offline.caution).toContain('fetches packages over the network');
    expect(offline.hand).toBe('choose');
  });

  it('types the size that somebody wants where the installer lays out by itself', () => {
    const guided = { partitioning: 'guided' } as const;
    expect(clean('partitions', guided)).toMatchObject({ hand: 'choose', from: 'house-rule' });
    const preparation = { ...nothingPrepared, wantedSystemBytes: 90 * 1024 ** 3 };
    const wanted = clean('partitions', guided, { preparation });
    // 90 × 1024 and the release's own 260 + 16 + 780.
    expect(wanted.pieces.find(({ as }) => as === 'typed')?.text).toBe(String(90 * 1024 + 260 + 16 + 780));
    expect(wanted.hand).toBe('type');
  });

  it('says of a sign-in that nobody is asked for what follows from it', () => {
    const account = (automaticSignIn: 'off' | 'on') =>
      clean('account', { automaticSignIn, account: 'local' });
    expect(answerText(account('on'))).toContain('Automatic sign-in on.');
    expect(account('on').caution).toContain('whoever switches the device on reads what the account reads');
    expect(answerText(account('off'))).toContain('Automatic sign-in off.');
    expect(account('off').caution ?? '').not.toContain('whoever');
  });

  it('offers the account that the release has, where it has not the house’s', () => {
    const local = page('account', 'clean-whole-disk', 'saltbush-full', { account: 'organisation' });
    expect(answerText(local)).toContain('A local account');
    expect(local.caution).toContain('Saltbush Desktop 6 Full offers a local account');
    expect(local.pieces.find(({ as }) => as === 'typed')?.text).toBe('crew-room');
  });

  it('encrypts when the house does, or when the release can', () => {
    const when = (releaseId: string, encryption: HouseRules['encryption']) =>
      page('encryption', 'clean-whole-disk', releaseId, { encryption });
    expect(when('corvel-10-business', 'off').secret).toBeUndefined();
    expect(when('corvel-10-business', 'during-setup').secret).toBe('password');
    expect(answerText(when('corvel-10-business', 'after'))).toMatch(/^No\. Step \d+ switches it on\.$/);
    // Saltbush is encrypted at install or never, whatever the house prefers.
    expect(when('saltbush-full', 'after')).toMatchObject({ secret: 'password' });
    expect(when('saltbush-full', 'after').caution).toContain('is encrypted during the install or never');
  });

  it('gives a laptop as much swap as it has memory, a desktop four GiB at most', () => {
    const swap = (chassis: 'laptop' | 'desktop') =>
      answerText(page('swap', 'clean-whole-disk', 'harrow-5', {}, { facts: withFacts(laptop, { chassis }) }));
    expect(swap('laptop')).toContain('8.0 GiB');
    expect(swap('desktop')).toContain('4.0 GiB');
  });
});

describe('a waived check', () => {
  it('is skipped by the release’s own recipe, a line each, or says that nobody has noted one', () => {
    const waivers = ['tpm', 'memory'] as const;
    const { skips } = sheetOf('waived-clean', 'corvel-10-business', {}, { waivers: [...waivers] });
    expect(skips.map(({ check }) => check)).toEqual(waivers);
    expect(skips[0]?.recipe).toContain('skip=tpm');
    expect(skips[1]?.recipe).toContain('skip=memory');
    const release = {
      ...releaseOf('corvel-10-business'),
      requirements: releaseOf('corvel-10-business').requirements.map((one) =>
        one.kind === 'tpm' ? { kind: one.kind, minimum: one.minimum, waiver: 'No promised fixes.' } : one,
      ),
    };
    const bare = sheetOf('waived-clean', 'corvel-10-business', {}, { waivers: ['tpm'], release });
    expect(bare.skips).toEqual([{ check: 'tpm', recipe: null }]);
    expect(sheetLines(bare).map(({ id }) => id)).toContain('skip:tpm');
    expect(sheetOf('clean-whole-disk', 'corvel-10-business').skips).toEqual([]);
  });
});

describe('names', () => {
  it('of computers are letters, figures and hyphens, fifteen at most', () => {
    expect(computerName('{site}-{number}', whose)).toBe('LOW-0036');
    expect(computerName('{owner} {number}', { ...whose, owner: 'Zoë Fährmann-Ørsted' })).toBe(
      'ZOE-FAHRMANN-RS',
    );
    expect(computerName('{site}', { ...whose, site: '海' })).toBe('MV-0036');
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme' }), fc.string({ unit: 'grapheme' }), (pattern, owner) => {
        expect(computerName(pattern, { ...whose, owner })).toMatch(/^[A-Z0-9]([A-Z0-9-]{0,13}[A-Z0-9])?$/);
      }),
    );
  });

  it('of accounts and languages are what people type and read', () => {
    expect(accountName('Maud Sallow')).toBe('maud-sallow');
    expect(languageName('fr')).toBe('French');
    expect(languageName('not a code')).toBe('not a code');
  });
});

describe('over any plan', () => {
  it('every page has an answer, or the fact that it waits for', () => {
    let pages = 0;
    let waiting = 0;
    const kinds = new Set<string>();
    fc.assert(
      fc.property(anyPlanInput, (input) => {
        const states = input && planStates(input);
        const sheet = input && states?.ok ? answerSheet(input, states.value, whose) : undefined;
        for (const one of sheet?.pages ?? []) {
          pages += 1;
          kinds.add(one.kind);
          if (one.missing) waiting += 1;
          expect([one.name, one.missing !== undefined, one.pieces.length > 0]).toEqual([
            one.name,
            one.missing !== undefined,
            one.missing === undefined,
          ]);
          for (const { text } of one.pieces) expect(text.trim()).toBe(text);
        }
      }),
      { numRuns: 400 },
    );
    console.log(`${pages} pages, ${waiting} wait for a fact, ${kinds.size} kinds`);
    expect(pages).toBeGreaterThan(1000);
    expect(waiting).toBeGreaterThan(5);
    expect(kinds.size).toBe(pageKinds.length);
  });
});
