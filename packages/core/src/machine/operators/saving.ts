import { goalUnmet } from '../goalUnmet';
import { withNote, type Machine } from '../state';
import type { OperatorRule, WorkPlace } from '../operator';
import { backAgain, goneFrom, inPresent, inTarget, inUse, namesOf, need } from './needs';

const withData = (
  machine: Machine,
  sets: readonly string[],
  change: (data: Machine['data'][number]) => Partial<Machine['data'][number]>,
): Machine => ({
  ...machine,
  data: machine.data.map((data) => (sets.includes(data.id) ? { ...data, ...change(data) } : data)),
});

const add = (list: readonly string[], one: string) => (list.includes(one) ? list : [...list, one]);

const gone = (machine: Machine, sets: readonly string[]) =>
  machine.data.filter(({ id, original }) => sets.includes(id) && original === 'gone');

export const note: OperatorRule<'note'> = {
  needs: () => [],
  does: (machine, operator) => withNote(machine, operator.note),
};

/** Done in the present system: it is what reads an encrypted disk. */
export const copy: OperatorRule<'copy'> = {
  inside: inPresent,
  needs: (machine, { sets }) => [
    ...need(gone(machine, sets).length === 0, `erased already: ${namesOf(gone(machine, sets))}`),
  ],
  does: (machine, { sets, destination }) =>
    withData(machine, sets, ({ unproven }) => ({ unproven: add(unproven, destination) })),
};

export const verify: OperatorRule<'verify'> = {
  needs: (machine, { sets, destination }) => {
    const uncopied = machine.data.filter(
      ({ id, unproven }) => sets.includes(id) && !unproven.includes(destination),
    );
    return [
      ...need(
        gone(machine, sets).length === 0,
        `erased, with nothing left to compare: ${namesOf(gone(machine, sets))}`,
      ),
      ...need(uncopied.length === 0, `not copied there yet: ${namesOf(uncopied)}`, 'copy'),
    ];
  },
  does: (machine, { sets, destination }) =>
    withData(machine, sets, ({ good }) => ({ good: add(good, destination) })),
};

export const imageDisk: OperatorRule<'image-disk'> = {
  inside: inPresent,
  needs: () => [],
  does: (machine) => withNote(machine, 'image-of-disk'),
};

/** Whether every copy of these is on that destination and counts. */
const held = (machine: Machine, sets: readonly string[], destination: string) => {
  const short = machine.data.filter(({ id, good }) => sets.includes(id) && !good.includes(destination));
  return need(short.length === 0, `no verified copy there of ${namesOf(short)}`);
};

export const restore: OperatorRule<'restore'> = {
  inside: inTarget,
  needs: (machine, { sets, destination }) => [...inUse(machine), ...held(machine, sets, destination)],
  does: (machine, { sets }) => withData(machine, sets, () => ({ back: true })),
};

export const moveData: OperatorRule<'move-data'> = {
  needs: (machine, { sets, destination }) => [
    ...need(machine.notes.includes('new-device'), 'the new device is not named', 'note:new-device'),
    ...(sets.length === 0 ? [] : held(machine, sets, destination)),
  ],
  does: (machine, { sets }) => withData(machine, sets, () => ({ back: true })),
};

/** Whether work can be done there. */
const ready = (machine: Machine, where: WorkPlace) =>
  where === 'target'
    ? inUse(machine)
    : need(
        where === 'present' || machine.notes.includes('new-device'),
        'the new device is not named',
        'note:new-device',
      );

const systemAt = (where: WorkPlace) => (where === 'new-device' ? undefined : where);

export const account: OperatorRule<'account'> = {
  inside: (_machine, { where }) => systemAt(where),
  needs: (machine, { sets, where }) => [...ready(machine, where), ...backAgain(machine, sets)],
  does: (machine) => withNote(machine, 'accounted'),
};

export const use: OperatorRule<'use'> = {
  inside: (_machine, { where }) => systemAt(where),
  needs: (machine, { where, withData }) => [
    ...ready(machine, where),
    ...(withData ? backAgain(machine, goneFrom(machine)) : []),
  ],
  does: (machine) => machine,
};

/** Whatever is done to a machine may be what brings it nearer to its goal. */
export const handOver: OperatorRule<'hand-over'> = {
  needs: (machine, { goal }) =>
    goalUnmet(machine, goal).map((missing) => ({ missing, suppliedBy: 'anything' })),
  does: (machine) => withNote(machine, 'handed-over'),
};
