import type { Need, Operator, OperatorKind, OperatorOf, OperatorRule } from './operator';
import * as disks from './operators/disks';
import * as media from './operators/media';
import * as saving from './operators/saving';
import * as starting from './operators/starting';
import * as systems from './operators/systems';
import { startable } from './operators/needs';
import { isRunning, type Machine } from './state';

/** The meaning of every operator; adding a kind is adding its entry here. */
const rules: { readonly [K in OperatorKind]: OperatorRule<K> } = {
  note: saving.note,
  copy: saving.copy,
  verify: saving.verify,
  restore: saving.restore,
  'move-data': saving.moveData,
  'image-disk': saving.imageDisk,
  account: saving.account,
  use: saving.use,
  'hand-over': saving.handOver,
  'write-installer': media.writeInstaller,
  'make-installer-partition': media.makeInstallerPartition,
  'remove-installer': media.removeInstaller,
  'write-shim': media.writeShim,
  'take-out': media.takeOut,
  'put-in': media.putIn,
  start: starting.start,
  'set-switch': starting.setSwitch,
  'set-up': starting.setUp,
  'list-systems': starting.listSystems,
  'fit-part': disks.fitPart,
  unplug: disks.unplug,
  plug: disks.plug,
  label: disks.label,
  identify: disks.identify,
  'keep-sectors': disks.keepSectors,
  'connect-mains': disks.connectMains,
  shrink: disks.shrink,
  'move-partition': disks.movePartition,
  'delete-partition': disks.deletePartition,
  convert: disks.convert,
  'write-loader': disks.writeLoader,
  erase: disks.erase,
  'format-system': disks.formatSystem,
  wipe: disks.wipe,
  install: systems.install,
  upgrade: systems.upgrade,
  'install-over': systems.installOver,
  update: systems.update,
  'make-recovery-medium': systems.makeRecoveryMedium,
  'fit-drivers': systems.fitDrivers,
  'patch-drivers': systems.patchDrivers,
  activate: systems.activate,
  firewall: systems.firewall,
  encrypt: systems.encrypt,
  'make-data-partition': systems.makeDataPartition,
  'suspend-encryption': systems.suspendEncryption,
  'resume-encryption': systems.resumeEncryption,
  'shut-down-fully': systems.shutDown,
  isolate: systems.isolate,
};

function ask<K extends OperatorKind, Answer>(
  operator: OperatorOf<K>,
  question: (rule: OperatorRule<K>, operator: OperatorOf<K>) => Answer,
): Answer {
  return question(rules[operator.op], operator);
}

const placeOf = (machine: Machine, operator: Operator) =>
  ask(operator, (rule, one) => rule.inside?.(machine, one));

/** The preconditions of an operator that do not hold in this state; empty where it can be done. */
export function needsOf(machine: Machine, operator: Operator): readonly Need[] {
  const place = placeOf(machine, operator);
  return [
    ...(place === undefined || isRunning(machine, place) ? [] : startable(machine, place)),
    ...ask(operator, (rule, one) => rule.needs(machine, one)),
  ];
}

/** The state after an operator whose needs are met. */
export function after(machine: Machine, operator: Operator): Machine {
  const place = placeOf(machine, operator);
  const there: Machine =
    place === undefined || isRunning(machine, place)
      ? machine
      : { ...machine, running: { what: 'system', system: place } };
  return ask(operator, (rule, one) => rule.does(there, one));
}

/** The data sets that may be gone when the operator is broken off half-way. */
export function risksOf(machine: Machine, operator: Operator): readonly string[] {
  return ask(operator, (rule, one) => rule.risks?.(machine, one) ?? []);
}

/** Whether breaking it off half-way may cost something: data, or, with a switch of the firmware, the way to them. */
export function isRisky(operator: Operator): boolean {
  return operator.op === 'set-switch' || ask(operator, (rule) => rule.risks !== undefined);
}
