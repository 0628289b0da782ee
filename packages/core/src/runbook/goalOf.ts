import { firmwareSwitches } from '../firmware/switches';
import type { Goal } from '../machine/goal';
import { isEmptyDevice, valueOf } from '../survey/facts';
import { presentFixes } from './fixes';
import type { StepInput } from './input';
import { layoutApart } from './layoutApart';
import { changesBootOrder, diskIdOf, encryptedWhen, setsAtRisk } from './machineOf';
import { startOn } from './startOn';

/** What was decided, as a condition on the last state. */
export function goalOf(input: StepInput): Goal {
  const { route, dataSets, destinations, facts, houseRules } = input;
  const has = (kind: StepInput['route']['steps'][number]) => route.steps.includes(kind);
  const fixes = presentFixes(input);
  const on = startOn(input);
  const asked = has('firmware') && on ? firmwareSwitches(on).map(({ id }) => id) : [];
  return {
    target: route.hasTarget ? { disk: diskIdOf(input), patched: route.id === 'patched-install' } : null,
    kept: has('install-beside') || has('fit-second-disk') || route.id === 'hold' ? ['present'] : [],
    back: setsAtRisk(input),
    // Where nothing is done to the device, what was listed before stays listed, and is not copied.
    copies: (has('copy') ? destinations : []).flatMap(({ id, takes }) =>
      dataSets
        .filter((dataSet) => takes.includes(dataSet.id))
        .map((dataSet) => ({ dataSet: dataSet.id, destination: id })),
    ),
    notes: [
      ...(has('record-recovery-key') && valueOf(facts, 'diskEncryption') !== 'off'
        ? (['recovery-key'] as const)
        : []),
      ...(route.id === 'hold' ? (['hold-until'] as const) : []),
      ...(has('updates-by-hand') ? (['updates-by-hand'] as const) : []),
      ...(has('look-again') ? (['look-again'] as const) : []),
      ...(has('isolate-old-system') && typeof fixes === 'object' ? (['isolation-day'] as const) : []),
      ...(route.id === 'replace' ? (['new-device', 'disposed'] as const) : []),
      ...(houseRules.savedAs === 'both' &&
      has('full-image') &&
      input.destinations.length > 0 &&
      !isEmptyDevice(facts)
        ? (['image-of-disk'] as const)
        : []),
      ...(has('reconcile') && dataSets.length > 0 ? (['accounted'] as const) : []),
    ],
    dataPartition: has('make-data-partition') && layoutApart(input) !== undefined,
    encrypted: has('encrypt') && encryptedWhen(input) === 'after',
    isolated: route.id === 'hold' || (has('isolate-old-system') && fixes === 'over') ? 'present' : null,
    firmware: {
      secureBoot: asked.includes('secure-boot-on'),
      chip: asked.includes('tpm-on'),
      uefi: asked.includes('legacy-off'),
      firstDisk: changesBootOrder(input),
    },
    emptied: route.id === 'replace' ? diskIdOf(input) : null,
  };
}
