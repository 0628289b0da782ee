import { releaseTitle } from '../../catalogue/find';
import { valueOf } from '../../survey/facts';
import { allows, excludes, targetOf, undecided, type RouteRule } from '../definition';
import { readLicence } from '../licence';

export const licenceFits: RouteRule = {
  id: 'licence-fits',
  reads: ['activation', 'licenceBelongsTo', 'presentRelease', 'licencesHeld'],
  judge: (context) => {
    const { release } = targetOf(context);
    const reading = readLicence(release, context.present, context.facts);
    switch (reading.state) {
      case 'fits':
        return allows(reading.sentence);
      case 'unknown':
        return undecided(reading.sentence, reading.howToFind);
      case 'unfit':
        return excludes(reading.sentence);
    }
  },
  remedies: (context) => {
    const { release } = targetOf(context);
    return [
      {
        id: `licence-${release.id}`,
        action: `Get a licence for ${releaseTitle(release)}`,
        handsOnMinutes: 10,
        cost: release.licencePrice,
        gives: (now) => ({ licencesHeld: [...(valueOf(now, 'licencesHeld') ?? []), release.id] }),
      },
    ];
  },
};
