import type { FirmwareState, Mode } from './state';

const modes: Readonly<Record<Mode, string>> = { uefi: 'UEFI', legacy: 'legacy' };
const onOff = (on: boolean) => (on ? 'on' : 'off');

/** The positions of the firmware's set-up, by the names of its pages. */
function positionsOf(firmware: FirmwareState): readonly (readonly [name: string, position: string])[] {
  return [
    ['Start mode', firmware.starts.map((mode) => modes[mode]).join(' and ')],
    ['Secure Boot', firmware.secureBoot],
    ['Third-party loaders', onOff(firmware.othersLoaders)],
    ['Security chip', firmware.chip],
    ['Start from USB', onOff(firmware.usbStart)],
    ['Tried first', firmware.first === 'disk' ? 'the disk' : 'a medium'],
  ];
}

/** The one position that all have; undefined where they differ. */
const common = (positions: readonly string[]) => (new Set(positions).size === 1 ? positions[0] : undefined);

/**
 * What is set otherwise in the firmware than before, as far as that is known.
 * @param before one a state that the survey leaves possible
 * @param after the same states afterwards, in the same order
 * @example changedPositions([before], [after]) // ['Secure Boot: on before, off now.']
 */
export function changedPositions(
  before: readonly FirmwareState[],
  after: readonly FirmwareState[],
): readonly string[] {
  const [names = []] = before.map(positionsOf);
  return names.flatMap(([name], at) => {
    const positionIn = (firmware: FirmwareState) => positionsOf(firmware)[at]?.[1] ?? '';
    const was = common(before.map(positionIn));
    const now = common(after.map(positionIn));
    return now === undefined || was === now ? [] : [`${name}: ${was ?? 'not known'} before, ${now} now.`];
  });
}
