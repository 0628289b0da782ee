import type { Release } from '../catalogue/catalogue';
import { startingMode } from '../media/stick';
import { valueOf, type Facts } from '../survey/facts';

type FirmwareSwitch = {
  readonly id: 'secure-boot-on' | 'tpm-on' | 'legacy-off' | 'usb-start';
  readonly title: string;
  readonly why: string;
  readonly caution?: string;
  /** `ask`: the present position is unknown; look, and change it if needed. */
  readonly certainty: 'needed' | 'ask';
};

/** The switch as a line of a list: one whose position is unknown is looked at first. */
export function switchTitle({ title, certainty }: FirmwareSwitch): string {
  return certainty === 'ask'
    ? `Look, and if needed: ${title.charAt(0).toLowerCase()}${title.slice(1)}`
    : title;
}

/**
 * The firmware switches that a release asks for on this device, in the order in which they are
 * turned: Secure Boot, security chip, legacy compatibility, USB start.
 */
export function firmwareSwitches(
  release: Release,
  facts: Facts,
  startsFromStick: boolean,
): readonly FirmwareSwitch[] {
  const wants = (kind: string) => release.requirements.some((requirement) => requirement.kind === kind);
  const switches: FirmwareSwitch[] = [];
  const secureBoot = valueOf(facts, 'secureBoot');
  const keyCaution = 'The recovery key may be asked for at the next start: have it at hand.';
  if (wants('secure-boot') && secureBoot !== 'on')
    switches.push({
      id: 'secure-boot-on',
      title: 'Turn Secure Boot on',
      why: 'The release starts only signed loaders.',
      caution: keyCaution,
      certainty: secureBoot === undefined ? 'ask' : 'needed',
    });
  const chip = valueOf(facts, 'tpm');
  if (wants('tpm') && (chip === undefined || chip === 'present-off'))
    switches.push({
      id: 'tpm-on',
      title: 'Turn the security chip (TPM) on',
      why: 'The release keeps its keys in it.',
      caution: keyCaution,
      certainty: chip === undefined ? 'ask' : 'needed',
    });
  const mode = valueOf(facts, 'firmwareMode');
  if (startingMode(release, facts) === 'uefi' && mode !== 'uefi')
    switches.push({
      id: 'legacy-off',
      title: mode === 'legacy' ? 'Switch the firmware to UEFI mode' : 'Turn legacy compatibility off',
      why: 'The target starts in UEFI mode.',
      caution:
        'A system installed on MBR does not start any more afterwards: turn this only when it is to be replaced or the disk has been converted.',
      certainty: mode === undefined ? 'ask' : 'needed',
    });
  if (startsFromStick)
    switches.push({
      id: 'usb-start',
      title: 'Allow starting from USB',
      why: 'Else the stick is not offered.',
      certainty: 'ask',
    });
  return switches;
}
