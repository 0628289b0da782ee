import type { Activation, Release } from '../catalogue/catalogue';
import { releaseTitle } from '../catalogue/find';
import { factTexts } from '../survey/describe';
import { isEmptyDevice, valueOf, type FactKey, type Facts } from '../survey/facts';

type LicenceReading =
  | { readonly state: 'fits' | 'unfit'; readonly sentence: string }
  | { readonly state: 'unknown'; readonly sentence: string; readonly howToFind: string };

/** For each kind of activation: whether it goes over to another edition, and what comes before the wipe. */
export const activationTexts: Record<
  Activation,
  { readonly anyEdition: boolean; readonly beforeTheWipe: string }
> = {
  digital: {
    anyEdition: false,
    beforeTheWipe:
      'Nothing to write down: it comes back by itself on the same hardware, for the same edition.',
  },
  'account-bound': {
    anyEdition: false,
    beforeTheWipe:
      'Sign in with the owner’s account, with the owner present, and see the device listed there before anything is erased.',
  },
  key: {
    anyEdition: false,
    beforeTheWipe:
      'Find the key (label, letter, invoice) and note where it is kept; it cannot be read afterwards.',
  },
  volume: {
    anyEdition: true,
    beforeTheWipe:
      'Note which of the organisation’s volume agreements it is, and that its server can be reached.',
  },
  none: { anyEdition: true, beforeTheWipe: 'Nothing: the system needs no licence.' },
};

/** Why a licence that was given to another board does not go over; no entry where it does. */
const staysWithItsBoard: Partial<Record<Activation, string>> = {
  digital:
    'A digital licence stays with the board that it was given to: after a new board only the account that it was linked to brings it back.',
  key: 'The key came with another computer, and may not be used on this one.',
};

function unknown(key: FactKey, needed: string): LicenceReading {
  return {
    state: 'unknown',
    sentence: `${factTexts[key].label} unknown; ${needed}.`,
    howToFind: factTexts[key].howToFind,
  };
}

/**
 * Whether the licence that the device has, or one at hand, activates a release: by kind of
 * activation, family and edition.
 */
export function readLicence(release: Release, present: Release | undefined, facts: Facts): LicenceReading {
  const title = releaseTitle(release);
  if (release.activation.includes('none')) return { state: 'fits', sentence: 'The system needs no licence.' };
  if (valueOf(facts, 'licencesHeld')?.includes(release.id))
    return { state: 'fits', sentence: `A licence for ${title} is at hand.` };
  if (isEmptyDevice(facts))
    return {
      state: 'unfit',
      sentence: `The device brings no licence with it: ${title} needs one. A digital licence of another board is none, nor is a key that came with another computer; one that was bought apart is a licence at hand.`,
    };
  if (!present) return unknown('presentRelease', 'the licence must fit the edition');
  if (present.family !== release.family)
    return { state: 'unfit', sentence: `${title} needs a licence of its own.` };
  const activation = valueOf(facts, 'activation');
  if (activation === undefined) return unknown('activation', `the licence must fit ${title}`);
  if (activation === 'none')
    return { state: 'unfit', sentence: `The present system is not activated: ${title} needs a licence.` };
  if (!release.activation.includes(activation))
    return { state: 'unfit', sentence: `A licence that is ${activation} does not activate ${title}.` };
  const stays = staysWithItsBoard[activation];
  if (stays !== undefined && valueOf(facts, 'licenceBelongsTo') === 'another-board')
    return { state: 'unfit', sentence: `${stays} ${title} needs a licence.` };
  return present.edition === release.edition || activationTexts[activation].anyEdition
    ? {
        state: 'fits',
        sentence: `The present licence (${activation}) fits ${release.edition || release.name}.`,
      }
    : { state: 'unfit', sentence: `The licence is for ${present.edition}, not for ${release.edition}.` };
}
