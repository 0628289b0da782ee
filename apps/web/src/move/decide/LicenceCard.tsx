import { findRelease, releaseTitle, supportDaysLeft } from '@ulvane/core/catalogue';
import { activationTexts, readLicence } from '@ulvane/core/route';
import { valueOf } from '@ulvane/core/survey';
import { useOpenMove } from '../MoveContext';
import { VerdictSign } from '../../drawing/verdicts';
import { useDay } from '../../shell/useDay';

const verdicts = { fits: 'meets', unfit: 'fails', unknown: 'unknown' } as const;

/** Which supported editions the licence activates, and what comes before the wipe. */
export function LicenceCard() {
  const { move, house } = useOpenMove();
  const today = useDay();
  const present = findRelease(house.catalogue, valueOf(move.facts, 'presentRelease'));
  const activation = valueOf(move.facts, 'activation');
  const releases = house.catalogue.releases.filter(
    (release) =>
      !release.activation.includes('none') &&
      supportDaysLeft(release, today) >= 0 &&
      (present === undefined || release.family === present.family || move.decision?.releaseId === release.id),
  );
  return (
    <section className="sheet" aria-labelledby="licence">
      <h2 id="licence">Licence</h2>
      <p>
        {activation === undefined
          ? 'How the present system is activated is unknown: open its activation page.'
          : `The present licence is ${activation}. Before the wipe: ${activationTexts[activation].beforeTheWipe}`}
      </p>
      {releases.length > 0 && (
        <ul className="reasons">
          {releases.map((release) => {
            const reading = readLicence(release, present, move.facts);
            return (
              <li key={release.id}>
                <VerdictSign verdict={verdicts[reading.state]} short />
                <span>
                  <strong>{releaseTitle(release)}</strong> takes {release.activation.join(', ')}.{' '}
                  <span className="soft">{reading.sentence}</span>
                </span>
              </li>
            );
          })}
        </ul>
      )}
    </section>
  );
}
