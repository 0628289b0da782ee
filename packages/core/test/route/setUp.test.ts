import { describe, expect, it } from 'vitest';
import { conflictText, routes, setUpConflicts, type RouteId } from '../../src/route';
import { defaultHouseRules, type HouseRules } from '../../src/rules';
import { catalogue, releaseOf } from '../fixtures/shop';

const conflicts = (releaseId: string, rules: Partial<HouseRules>, routeId: RouteId = 'clean-whole-disk') =>
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
      release: releaseOf(releaseId),
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

  it('always have a way out', () => {
    let found = 0;
    for (const { id } of catalogue.releases)
      for (const account of ['organisation', 'online', 'local'] as const)
        for (const networkDuringSetup of ['online', 'offline'] as const)
          for (const encryption of ['during-setup', 'after', 'off'] as const)
            for (const conflict of conflicts(id, { account, networkDuringSetup, encryption })) {
              found += 1;
              expect(conflict.waysOut.length).toBeGreaterThan(0);
              expect(conflictText(conflict)).toMatch(/\.$/);
            }
    expect(found).toBeGreaterThan(100);
  });
});
