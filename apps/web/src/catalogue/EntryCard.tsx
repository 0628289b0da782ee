import {
  findFamily,
  findRelease,
  releaseTitle,
  type Application,
  type Catalogue,
  type CatalogueEntry,
  type CatalogueKind,
  type Model,
  type Release,
} from '@ulvane/core/catalogue';
import { printBothUnits } from '@ulvane/core/quantity';
import { withoutWords } from '@ulvane/core/route';
import Button from 'react-bootstrap/Button';
import { requirementText } from './requirementText';

type EntryCardProps = {
  readonly kind: CatalogueKind;
  readonly entry: CatalogueEntry;
  readonly catalogue: Catalogue;
  readonly title: string;
  readonly onEdit: (() => void) | undefined;
};

/** One entry for reading. */
export function EntryCard({ entry, catalogue, title, onEdit }: EntryCardProps) {
  return (
    <section className="sheet" aria-labelledby="entry">
      <div className="d-flex align-items-start gap-2">
        <h2 id="entry">{title}</h2>
        {onEdit && (
          <Button size="sm" variant="quiet" className="ms-auto no-print" onClick={onEdit}>
            Edit
          </Button>
        )}
      </div>
      {'requirements' in entry && <ReleaseText release={entry} catalogue={catalogue} />}
      {'chassis' in entry && <ModelText model={entry} catalogue={catalogue} />}
      {'equivalents' in entry && <ApplicationText application={entry} catalogue={catalogue} />}
      {'about' in entry && <p className="mb-0">{entry.about}</p>}
    </section>
  );
}

const titlesOf = (ids: readonly string[], catalogue: Catalogue) =>
  ids
    .map((id) => {
      const release = findRelease(catalogue, id);
      return release ? releaseTitle(release) : id;
    })
    .join(', ');

function ReleaseText({ release, catalogue }: { readonly release: Release; readonly catalogue: Catalogue }) {
  return (
    <>
      <ul className="check-rows">
        {release.requirements.map((requirement) => (
          <li key={requirement.kind}>
            {requirementText(requirement)}
            {'waiver' in requirement && requirement.waiver !== undefined && (
              <span className="small-print d-block">Can be waived: {requirement.waiver}</span>
            )}
          </li>
        ))}
      </ul>
      <p className="small-print mb-0 mt-2">
        {release.wordBits} bit, {release.languages.join(', ')}. Upgrades from{' '}
        {titlesOf(release.upgradesFrom, catalogue) || 'nothing'}, with{' '}
        {printBothUnits(release.upgradeFreeBytes)} free. The image has {printBothUnits(release.imageBytes)}{' '}
        and comes by {release.bringings.map((way) => way.replaceAll('-', ' ')).join(', ')}.{' '}
        {release.mediaRecipe} Its installer makes{' '}
        {release.installerPartitions
          .map(({ purpose, sizeBytes }) => `${purpose} ${printBothUnits(sizeBytes)}`)
          .join(', ') || 'no partition by itself'}
        . {release.loader === 'unsigned' && 'Its loader is not signed: Secure Boot is turned off for it. '}
        {release.loader === 'third-party' &&
          'Others signed its loader: the firmware has to allow that under Secure Boot. '}
        {release.firstStartNetwork ? 'The first start needs a network. ' : ''}
        {release.encryptsByItself && 'Its set-up encrypts the disks without being asked. '}
        {release.setUpWithout.map(
          ({ what, how, consequence }) => `Without ${withoutWords[what]}: ${how} ${consequence} `,
        )}
        {release.wireless === 'none' && 'Its installer joins no wireless network. '}
        {release.wireless === 'commands' &&
          `A wireless network by commands: ${release.wirelessCommands.map(({ type }) => type).join('; ')}. `}
        {release.volumeName !== '' && `The volume with its installer is called “${release.volumeName}”. `}
        {release.upkeep !== 'easy' && `Keeping it up is for the ${release.upkeep}. `}
        {release.licencePrice > 0 && `A licence costs about ${release.licencePrice}.`}
      </p>
    </>
  );
}

function ModelText({ model, catalogue }: { readonly model: Model; readonly catalogue: Catalogue }) {
  return (
    <>
      <p>
        {model.chassis}, {model.fromYear} to {model.toYear}; {model.diskBays} place
        {model.diskBays === 1 ? '' : 's'} for disks; memory up to {printBothUnits(model.memoryCeilingBytes)}.
        Boot-menu key {model.bootMenuKey ?? 'unknown'}, set-up key {model.setupKey ?? 'unknown'}.{' '}
        {model.uefiCapable ? 'Has UEFI mode' : 'Has no UEFI mode'},{' '}
        {model.secureBootCapable ? 'has Secure Boot' : 'has no Secure Boot'}; security chip {model.tpm}.
      </p>
      {model.driverSets.map(({ family, from, serves }) => (
        <p key={family}>
          Drivers for {findFamily(catalogue, family)?.name ?? family}: {from}, for {serves.join(', ')}.
        </p>
      ))}
      {model.lastRelease !== undefined && (
        <p>Last release that its maker supports: {titlesOf([model.lastRelease], catalogue)}.</p>
      )}
      {model.patch && (
        <>
          <p className="mb-1">
            With a patch: {titlesOf(model.patch.releases, catalogue)}; at every start {model.patch.startKey}.
            Known limits:
          </p>
          <ul>
            {model.patch.limits.map(({ part, sentence }) => (
              <li key={part + sentence}>
                <strong>{part}:</strong> {sentence}
              </li>
            ))}
          </ul>
        </>
      )}
      {model.quirks.map((quirk) => (
        <p key={quirk} className="caution mb-1">
          {quirk}
        </p>
      ))}
    </>
  );
}

function ApplicationText({
  application,
  catalogue,
}: {
  readonly application: Application;
  readonly catalogue: Catalogue;
}) {
  const name = (id: string) => catalogue.families.find((family) => family.id === id)?.name ?? id;
  return (
    <>
      {application.lockedToFamily !== undefined && (
        <p>Exists for {name(application.lockedToFamily)} only: it can decide the route alone.</p>
      )}
      <ul className="check-rows">
        {Object.entries(application.equivalents).map(([family, title]) => (
          <li key={family}>
            {name(family)}: {title}
          </li>
        ))}
      </ul>
      {application.formats.map((format) => (
        <p key={format.name} className="small-print mb-0 mt-1">
          {format.name} open whole in {format.survivesIn.map(name).join(', ') || 'none'}.
        </p>
      ))}
    </>
  );
}
