import { describe, expect, it } from 'vitest';
import type { Release } from '../../src/catalogue';
import type { Facts } from '../../src/survey';
import { conflictText, routes, setUpConflicts, type RouteId } from '../../src/route';
import { accountAtSetUp, setsUpOffline, toldToGoWithout } from '../../src/route/setUp';
import { defaultHouseRules, type HouseRules } from '../../src/rules';
import { planSteps } from '../../src/runbook';
import { catalogue, inputFor, laptopSurvey, laptopWith, releaseOf } from '../fixtures/shop';

/** A release that cannot be told to go on without anything, and that does nothing unasked. */
const plainly = (id: string): Release => ({ ...releaseOf(id), setUpWithout: [], encryptsByItself: false });

const conflicts = (
  release: string | Release,
  rules: Partial<HouseRules>,
  routeId: RouteId = 'clean-whole-disk',
  facts?: Facts,
) =>
  setUpConflicts(
    routes[routeId],
    {
      houseRules: {
        ...defaultHouseRules,
        encryption: 'off',
        account: 'local',
        networkDuringSetup: 'online',
        ...rules,
      },
      release: typeof release === 'string' ? plainly(release) : release,
      ...(facts === undefined ? {} : { facts }),
    },
    catalogue.releases,
  );
const ids = (...given: Parameters<typeof conflicts>) => conflicts(...given).map(({ id }) => id);

describe('house rules and set-up, held against each other', () => {
  it('agree where nothing is asked that the release cannot do', () => {
    expect(ids('corvel-10-business', {})).toEqual([]);
    expect(ids('saltbush-full', {})).toEqual([]);
  });

  it('differ over the network of the first start, with another edition as a way out', () => {
    expect(ids('corvel-10-personal', { networkDuringSetup: 'offline', account: 'online' })).toEqual([
      'network-at-first-start',
    ]);
    const [first] = conflicts('corvel-10-personal', { networkDuringSetup: 'offline', account: 'online' });
    expect(first?.waysOut).toEqual([
      'Connect it at that page, and not before.',
      'Take Corvel 10 Business, which asks for none.',
    ]);
    expect(ids('corvel-10-personal', { account: 'online' })).toEqual([]);
  });

  it('differ over an account that is not offered, and over one that needs the network', () => {
    expect(ids('saltbush-full', { account: 'organisation' })).toEqual(['account']);
    expect(ids('corvel-10-business', { account: 'organisation' })).toEqual([]);
    const offline = { account: 'organisation', networkDuringSetup: 'offline' } as const;
    expect(ids('corvel-10-business', offline)).toEqual(['network-for-account']);
    expect(conflicts('corvel-10-business', offline)[0]?.waysOut).toEqual([
      'Make a local account first, and sign in later.',
      'Set up online: make an exception from the house rule.',
    ]);
    // Campus has no local account: that is no way out there.
    expect(conflicts('corvel-10-campus', offline)[0]?.waysOut).toHaveLength(1);
  });

  it('differ over a licence that comes with the account of the owner', () => {
    const bound = (
      activation: 'account-bound' | 'digital',
      more: object = {},
      rules: Partial<HouseRules> = {},
    ) =>
      setUpConflicts(
        routes['clean-whole-disk'],
        {
          houseRules: {
            ...defaultHouseRules,
            encryption: 'off',
            account: 'local',
            networkDuringSetup: 'online',
            ...rules,
          },
          release: releaseOf('aurin-15'),
          facts: laptopWith({ system: { ...laptopSurvey.system, activation, ...more } }),
        },
        catalogue.releases,
      );
    expect(bound('account-bound').map(({ id, waysOut }) => [id, waysOut.length])).toEqual([
      ['account-for-licence', 2],
    ]);
    expect(bound('digital')).toEqual([]);
    // The owner's own account is what set-up makes, or another licence is at hand.
    expect(bound('account-bound', {}, { account: 'online' })).toEqual([]);
    expect(bound('account-bound', { licencesHeld: ['aurin-15'] })).toEqual([]);
    const step = (activation: 'account-bound' | 'digital') => {
      const planned = planSteps(
        inputFor('clean-whole-disk', 'aurin-15', {
          facts: laptopWith({ system: { ...laptopSurvey.system, activation } }),
          houseRules: { ...defaultHouseRules, account: 'local' },
        }),
      );
      if (!planned.ok) throw new Error(planned.problems[0]?.sentence);
      return planned.value.steps.find((one) => one.step.kind === 'activate')?.step.why;
    };
    expect(step('account-bound')).toContain('the owner signs in once here');
    expect(step('digital')).not.toContain('signs in');
  });

  it('differ over the moment at which a disk is encrypted', () => {
    expect(ids('saltbush-full', { encryption: 'after' })).toEqual(['encryption']);
    expect(ids('saltbush-full', { encryption: 'during-setup' })).toEqual([]);
    expect(ids('corvel-9-business', { encryption: 'during-setup' })).toEqual(['encryption']);
    expect(ids('corvel-9-business', { encryption: 'after' })).toEqual([]);
  });

  it('are not compared where nothing is set up anew', () => {
    const all = {
      networkDuringSetup: 'offline',
      account: 'organisation',
      encryption: 'during-setup',
    } as const;
    expect(ids('corvel-10-personal', all, 'in-place-upgrade')).toEqual([]);
    expect(ids('corvel-10-personal', all, 'replace')).toEqual([]);
    expect(ids('corvel-10-personal', all).length).toBeGreaterThan(0);
  });

  describe('where set-up can be told to go on without', () => {
    const personal = releaseOf('corvel-10-personal');
    const [network, account, encryption] = personal.setUpWithout;
    const offline = { networkDuringSetup: 'offline', account: 'local', encryption: 'after' } as const;
    const given = (rules: object, release = personal) => ({
      houseRules: { ...defaultHouseRules, ...offline, ...rules },
      release,
    });

    it('the house gets its way, with how it is told and what that costs', () => {
      expect(conflicts(personal, offline).map(({ id, waysOut }) => [id, waysOut[0]])).toEqual([
        ['network-at-first-start', `${network?.how} ${network?.consequence}`],
        ['account', `${account?.how} ${account?.consequence}`],
      ]);
      expect(setsUpOffline(given({}))).toBe(true);
      expect(accountAtSetUp(given({}))).toBe('local');
      // Without the online account there is one of the computer, and none of the organisation’s.
      expect(accountAtSetUp(given({ account: 'organisation' }))).toBe('online');
      expect(toldToGoWithout(given({})).map(({ what }) => what)).toEqual(['network', 'account']);
      // What the house does not want left out is not left out.
      expect(toldToGoWithout(given({ networkDuringSetup: 'online', account: 'online' }))).toEqual([]);
    });

    it('it is refused with its reason where nobody has listed a way', () => {
      const bare = plainly('corvel-10-personal');
      expect(conflicts(bare, offline).map(({ id, sentence }) => [id, sentence])).toEqual([
        ['network-at-first-start', expect.stringContaining('nobody has listed a way past it')],
        [
          'account',
          'The house wants a local account, and Corvel 10 Personal offers the owner’s online account.',
        ],
      ]);
      expect(setsUpOffline(given({}, bare))).toBe(false);
      expect(accountAtSetUp(given({}, bare))).toBe('online');
    });

    it('a disk is kept from being encrypted unasked, or looked at afterwards', () => {
      const [told, ...others] = conflicts(personal, { account: 'online' });
      expect(others).toEqual([]);
      expect([told?.id, told?.waysOut[0]]).toEqual([
        'encryption-by-itself',
        `${encryption?.how} ${encryption?.consequence}`,
      ]);
      const [bare] = conflicts(
        { ...plainly('corvel-10-personal'), encryptsByItself: true },
        { account: 'online' },
      );
      expect(bare?.waysOut[0]).toContain('Look at the encryption page at the first start');
      expect(toldToGoWithout(given({ encryption: 'off' })).map(({ what }) => what)).toContain('encryption');
    });

    it('the step of the first start says how, and an upgrade says nothing', () => {
      const why = (routeId: RouteId) => {
        const planned = planSteps(
          inputFor(routeId, 'corvel-10-personal', {
            facts: laptopWith({ firmware: { mode: 'uefi', secureBoot: 'on', tpm: '2.0' } }),
            houseRules: { ...defaultHouseRules, ...offline, encryption: 'off' },
          }),
        );
        if (!planned.ok) throw new Error(planned.problems[0]?.sentence);
        return planned.value.steps.find(({ step }) => step.kind === 'first-start')?.step.why ?? '';
      };
      for (const skip of personal.setUpWithout) {
        expect(why('clean-whole-disk')).toContain(skip.how);
        expect(why('in-place-upgrade')).not.toContain(skip.how);
      }
    });
  });

  it('differ over a network that an installer cannot join', () => {
    const radio = laptopWith({ network: [{ name: 'wl-a', kind: 'wireless' }] });
    const both = laptopWith({
      network: [
        { name: 'wl-a', kind: 'wireless' },
        { name: 'en-a', kind: 'wired' },
      ],
    });
    const deaf = { ...plainly('saltbush-full'), wireless: 'none' } as const;
    expect(conflicts(deaf, {}, 'clean-whole-disk', radio).map(({ id }) => id)).toEqual([
      'wireless-in-installer',
    ]);
    expect(conflicts(deaf, {}, 'clean-whole-disk', both)).toEqual([]);
    expect(conflicts(deaf, { networkDuringSetup: 'offline' }, 'clean-whole-disk', radio)).toEqual([]);
    expect(conflicts(plainly('saltbush-full'), {}, 'clean-whole-disk', radio)).toEqual([]);
  });

  it('always have a way out', () => {
    let found = 0;
    for (const { id } of catalogue.releases)
      for (const account of ['organisation', 'online', 'local'] as const)
        for (const networkDuringSetup of ['online', 'offline'] as const)
          for (const encryption of ['during-setup', 'after', 'off'] as const)
            for (const conflict of conflicts(releaseOf(id), { account, networkDuringSetup, encryption })) {
              found += 1;
              expect(conflict.waysOut.length).toBeGreaterThan(0);
              expect(conflictText(conflict)).toMatch(/\.$/);
            }
    expect(found).toBeGreaterThan(100);
  });
});
