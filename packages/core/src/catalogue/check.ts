import type { Problem } from '../outcome/outcome';
import { catalogueKinds, type Catalogue } from './catalogue';
import { releaseTitle } from './find';

/**
 * Everything that is wrong between the entries of a catalogue: doubled ids, references to nowhere,
 * dates and years the wrong way round, upgrade jumps that lead in a circle, and models that a device
 * would fit twice. Empty when it is sound. Paths are JSON pointers into the catalogue.
 */
export function checkCatalogue(catalogue: Catalogue): readonly Problem[] {
  return [
    ...doubledIds(catalogue),
    ...referencesToNowhere(catalogue),
    ...datesTheWrongWay(catalogue),
    ...setUpThatContradictsItself(catalogue),
    ...circlesOfJumps(catalogue),
    ...modelsThatFitTwice(catalogue),
  ];
}

function doubledIds(catalogue: Catalogue): Problem[] {
  const problems: Problem[] = [];
  for (const part of catalogueKinds) {
    const seen = new Set<string>();
    for (const [index, { id }] of catalogue[part].entries()) {
      if (seen.has(id))
        problems.push({
          code: 'doubled-id',
          path: `/${part}/${index}/id`,
          sentence: `“${id}” is listed twice in ${part}.`,
        });
      seen.add(id);
    }
  }
  return problems;
}

function referencesToNowhere(catalogue: Catalogue): Problem[] {
  const families = new Set(catalogue.families.map(({ id }) => id));
  const releases = new Set(catalogue.releases.map(({ id }) => id));
  const problems: Problem[] = [];
  const check = (known: ReadonlySet<string>, ids: readonly string[], path: string) => {
    for (const id of ids)
      if (!known.has(id))
        problems.push({
          code: 'reference-to-nowhere',
          path,
          sentence: `“${id}” is named at ${path} and is not in the catalogue.`,
        });
  };
  for (const [index, release] of catalogue.releases.entries()) {
    check(families, [release.family], `/releases/${index}/family`);
    check(releases, release.upgradesFrom, `/releases/${index}/upgradesFrom`);
  }
  for (const [index, { lastRelease, patch, driverSets }] of catalogue.models.entries()) {
    if (lastRelease !== undefined) check(releases, [lastRelease], `/models/${index}/lastRelease`);
    check(releases, patch?.releases ?? [], `/models/${index}/patch/releases`);
    check(
      families,
      driverSets.map(({ family }) => family),
      `/models/${index}/driverSets`,
    );
  }
  for (const [index, application] of catalogue.applications.entries()) {
    const at = `/applications/${index}`;
    if (application.lockedToFamily !== undefined)
      check(families, [application.lockedToFamily], `${at}/lockedToFamily`);
    check(families, Object.keys(application.equivalents), `${at}/equivalents`);
    for (const { survivesIn } of application.formats) check(families, survivesIn, `${at}/formats`);
  }
  return problems;
}

function datesTheWrongWay(catalogue: Catalogue): Problem[] {
  const releases = catalogue.releases.flatMap((release, index): Problem[] =>
    release.fixesUntil !== null &&
    release.extendedUntil !== null &&
    release.extendedUntil < release.fixesUntil
      ? [
          {
            code: 'dates-the-wrong-way',
            path: `/releases/${index}/extendedUntil`,
            sentence: `${releaseTitle(release)}: extended support ends (${release.extendedUntil}) before the security updates do (${release.fixesUntil}).`,
          },
        ]
      : [],
  );
  const models = catalogue.models.flatMap(({ maker, model, fromYear, toYear }, index): Problem[] =>
    fromYear > toYear
      ? [
          {
            code: 'dates-the-wrong-way',
            path: `/models/${index}/toYear`,
            sentence: `${maker} ${model}: its years run from ${fromYear} to ${toYear}.`,
          },
        ]
      : [],
  );
  return [...releases, ...models];
}

/** Commands where none are typed, none where some are, and a way round that is told twice. */
function setUpThatContradictsItself({ releases }: Catalogue): Problem[] {
  return releases.flatMap((release, index): Problem[] => {
    const title = releaseTitle(release);
    const { wireless, wirelessCommands, setUpWithout } = release;
    const commands: Problem[] =
      (wireless === 'commands') === wirelessCommands.length > 0
        ? []
        : [
            {
              code: 'wireless-commands',
              path: `/releases/${index}/wirelessCommands`,
              sentence:
                wireless === 'commands'
                  ? `${title} joins a wireless network by commands, and none is listed: list them in the order in which they are typed.`
                  : `${title} has commands for a wireless network, and its installer takes none: say that it joins by commands, or remove them.`,
            },
          ];
    const twice = setUpWithout.filter(({ what }, at) =>
      setUpWithout.some((one, other) => other < at && one.what === what),
    );
    return [
      ...commands,
      ...twice.map(({ what }): Problem => ({
        code: 'doubled-skip',
        path: `/releases/${index}/setUpWithout`,
        sentence: `${title} tells twice how its set-up goes on without ${what}: remove one of them.`,
      })),
    ];
  });
}

/** Each circle is told once, at the release of it that stands first in the catalogue. */
function circlesOfJumps({ releases }: Catalogue): Problem[] {
  const byId = new Map(releases.map((release, index) => [release.id, { release, index }]));
  const done = new Set<string>();
  const problems: Problem[] = [];
  const walk = (id: string, path: readonly string[]) => {
    const entry = byId.get(id);
    if (!entry || done.has(id)) return;
    const at = path.indexOf(id);
    if (at >= 0) {
      const circle = path.slice(at);
      const first = circle.map((one) => byId.get(one)?.index ?? 0).reduce((a, b) => Math.min(a, b));
      problems.push({
        code: 'circle-of-jumps',
        path: `/releases/${first}/upgradesFrom`,
        sentence: `Upgrade jumps lead in a circle: ${[...circle, id].reverse().join(' → ')}. Remove one of them.`,
      });
      return;
    }
    for (const from of entry.release.upgradesFrom) walk(from, [...path, id]);
    done.add(id);
  };
  for (const { id } of releases) walk(id, []);
  return problems;
}

function modelsThatFitTwice({ models }: Catalogue): Problem[] {
  const fold = (text: string) => text.trim().toLowerCase();
  return models.flatMap((model, index) => {
    const twin = models
      .slice(0, index)
      .find(
        (other) =>
          other.id !== model.id &&
          fold(other.maker) === fold(model.maker) &&
          fold(other.model) === fold(model.model) &&
          other.fromYear <= model.toYear &&
          model.fromYear <= other.toYear,
      );
    return twin
      ? [
          {
            code: 'models-overlap',
            path: `/models/${index}`,
            sentence: `${model.maker} ${model.model}: the years of “${twin.id}” (${twin.fromYear}–${twin.toYear}) and “${model.id}” (${model.fromYear}–${model.toYear}) overlap, so that a device fits both.`,
          },
        ]
      : [];
  });
}
