import type { Catalogue, Release } from './catalogue';
import { findFamily } from './find';

/** Something that its owner does in another way from now on. */
type HabitChange = { readonly what: string; readonly before: string; readonly now: string };

/**
 * What is done in another way after a move from one release to another, in the order of the new family's list; empty
 * within a family, and where nobody has said how things are done.
 */
export function habitChanges(
  families: Catalogue['families'],
  from: Pick<Release, 'family'> | undefined,
  to: Pick<Release, 'family'> | undefined,
): readonly HabitChange[] {
  if (!from || !to || from.family === to.family) return [];
  const before = findFamily({ families }, from.family)?.habits ?? [];
  return (findFamily({ families }, to.family)?.habits ?? []).flatMap(({ what, here }) => {
    const was = before.find((one) => one.what === what);
    return was === undefined || was.here === here ? [] : [{ what, before: was.here, now: here }];
  });
}
