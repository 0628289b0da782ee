import { describe, expect, it } from 'vitest';
import { candidateFor, decide, whatWouldChange } from '../../src/decide';
import { readLicence } from '../../src/route/licence';
import { licenceOwners, noSystem, withFacts, type Facts } from '../../src/survey';
import { inputOf } from '../fixtures/devices';
import { laptop, laptopSurvey, laptopWith, releaseOf } from '../fixtures/shop';

const held = (
  activation: 'digital' | 'account-bound' | 'key' | 'volume',
  licenceBelongsTo?: (typeof licenceOwners)[number],
  more: object = {},
) =>
  laptopWith({
    system: {
      ...laptopSurvey.system,
      activation,
      ...(licenceBelongsTo === undefined ? {} : { licenceBelongsTo }),
      ...more,
    },
  });
const read = (facts: Facts, releaseId = 'corvel-10-business') =>
  readLicence(releaseOf(releaseId), releaseOf('corvel-9-business'), facts);

describe('a licence and the hardware that it was given to', () => {
  it('fits the board that it belongs to, and where nobody has said otherwise', () => {
    for (const activation of ['digital', 'key', 'volume'] as const)
      for (const owner of ['this-board', undefined] as const)
        expect([activation, read(held(activation, owner)).state]).toEqual([activation, 'fits']);
  });

  it('does not go over from another board, digital or by a key that came with a computer', () => {
    expect(read(held('digital', 'another-board'))).toEqual({
      state: 'unfit',
      sentence: expect.stringContaining('stays with the board that it was given to'),
    });
    expect(read(held('key', 'another-board')).sentence).toContain('came with another computer');
    // One that was bought apart goes over, and so does an agreement that counts devices.
    expect(read(held('key', 'no-board')).state).toBe('fits');
    expect(read(held('volume', 'another-board')).state).toBe('fits');
  });

  it('of the owner’s account goes over with the account', () => {
    const aurin = laptopWith({
      system: { ...laptopSurvey.system, activation: 'account-bound', licenceBelongsTo: 'another-board' },
    });
    expect(readLicence(releaseOf('aurin-15'), releaseOf('aurin-14'), aurin).state).toBe('fits');
  });

  it('is replaced by one that is at hand', () => {
    expect(read(held('digital', 'another-board', { licencesHeld: ['corvel-10-business'] })).state).toBe(
      'fits',
    );
  });

  it('of a new computer is none, and what would be one is said', () => {
    const empty = withFacts(laptop, { presentRelease: noSystem });
    expect(read(empty).sentence).toContain('nor is a key that came with another computer');
  });

  it('is no question while nobody has looked, and told among what would change the advice', () => {
    const input = inputOf(withFacts(held('digital'), { tpm: '2.0', secureBoot: 'on', firmwareMode: 'uefi' }));
    const told = whatWouldChange(input, decide(input));
    expect(told.unknowns.map(({ key }) => key)).not.toContain('licenceBelongsTo');
    const board = told.facts.find(({ key }) => key === 'licenceBelongsTo');
    expect([board?.isKnown, board?.turns.map(({ when }) => when)]).toEqual([
      true,
      ['another board or computer'],
    ]);
  });

  it('excludes the options on Decide that need it, with the licence to get as the way out', () => {
    const option = (facts: Facts) =>
      candidateFor(inputOf(facts), { routeId: 'clean-whole-disk', releaseId: 'corvel-10-business' });
    const able = (facts: Facts) => withFacts(facts, { tpm: '2.0', secureBoot: 'on', firmwareMode: 'uefi' });
    expect(option(able(held('digital', 'this-board')))?.status).not.toBe('excluded');
    const excluded = option(able(held('digital', 'another-board')));
    expect(excluded?.status).toBe('excluded');
    expect(excluded?.reasons.filter(({ finding }) => finding === 'excludes').map(({ rule }) => rule)).toEqual(
      ['licence-fits'],
    );
  });
});
