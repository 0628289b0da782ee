import { findApplication } from '../../catalogue/find';
import { valueOf } from '../../survey/facts';
import { allows, excludes, targetOf, undecided, type RouteRule } from '../definition';
import { unknown } from './unknownFact';

export const applicationsHaveEquivalents: RouteRule = {
  id: 'applications-have-equivalents',
  reads: ['applications'],
  judge: (context) => {
    const { release } = targetOf(context);
    const names = valueOf(context.facts, 'applications');
    if (names === undefined) return unknown('applications', 'each needs an equivalent');
    const entries = names.map((name) => ({
      name,
      entry: findApplication(context.applications, name),
    }));
    const locked = entries.flatMap(({ entry }) =>
      entry?.lockedToFamily !== undefined && entry.lockedToFamily !== release.family ? [entry.name] : [],
    );
    if (locked.length > 0) return excludes(`${locked.join(', ')} exists for the present family only.`);
    const missing = entries.filter(
      ({ entry }) => entry?.lockedToFamily === undefined && entry?.equivalents[release.family] === undefined,
    );
    if (missing.length > 0)
      return undecided(
        `No equivalent is known for ${missing.map(({ entry, name }) => entry?.name ?? name).join(', ')}.`,
        'Ask the owner whether it is needed, and try an equivalent on the live system.',
      );
    return allows(
      names.length === 0
        ? 'No applications to replace.'
        : `All ${names.length} applications have an equivalent.`,
    );
  },
  remedies: (context) => {
    const { release } = targetOf(context);
    const names = valueOf(context.facts, 'applications') ?? [];
    const locked = names.filter((name) => {
      const entry = findApplication(context.applications, name);
      return entry?.lockedToFamily !== undefined && entry.lockedToFamily !== release.family;
    });
    const titles = locked.map((name) => findApplication(context.applications, name)?.name ?? name);
    return [
      {
        id: `without-${locked.join('-')}`,
        action: `Give ${titles.join(' and ')} a home on another device, with the owner’s consent`,
        handsOnMinutes: 40 * locked.length,
        cost: 0,
        gives: (now) => ({
          applications: (valueOf(now, 'applications') ?? []).filter((name) => !locked.includes(name)),
        }),
      },
    ];
  },
};

/** Beside the present system nothing is taken away; but a second one without the owner's work is no help. */
export const workCanMove: RouteRule = {
  id: 'work-can-move',
  reads: ['applications'],
  judge: (context) => {
    const { release } = targetOf(context);
    if (context.present?.family === release.family)
      return allows('The same family: its applications run there too.');
    const names = valueOf(context.facts, 'applications');
    if (names === undefined)
      return unknown('applications', 'the work must be able to move to the second system');
    const staying = names.filter((name) => {
      const entry = findApplication(context.applications, name);
      return (
        entry?.equivalents[release.family] === undefined ||
        (entry.lockedToFamily !== undefined && entry.lockedToFamily !== release.family)
      );
    });
    const titles = staying.map((name) => findApplication(context.applications, name)?.name ?? name);
    return staying.length === 0
      ? allows('All of the owner’s work can move to the second system.')
      : undecided(
          `${titles.join(', ')} would stay on the present system, without fixes.`,
          'Ask the owner what is done with it, and whether that can stay off the network.',
        );
  },
};
