import type { RequirementKind } from '../catalogue/requirement';
import type { Position } from '../machine/operator';
import { startingMode, type StartOn } from '../media/startingMode';
import { systemDisk } from '../survey/disk';
import { valueOf } from '../survey/facts';

const keyCaution = 'The recovery key may be asked for at the next start: have it at hand.';

type FirmwareSwitch = {
  readonly id:
    'secure-boot-on' | 'secure-boot-off' | 'others-loaders' | 'tpm-on' | 'legacy-off' | 'usb-start';
  readonly to: Position;
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

/** What Secure Boot has to be told of a loader that the firmware's own key did not sign. */
function forLoader({ release, facts, presentLoader }: StartOn, turnsOn: boolean): readonly FirmwareSwitch[] {
  const secureBoot = valueOf(facts, 'secureBoot');
  const mode = valueOf(facts, 'firmwareMode');
  // On it is in UEFI mode alone; a system on MBR starts in another.
  const inUefi =
    mode === 'uefi' || (mode === undefined && systemDisk(valueOf(facts, 'disks'))?.scheme !== 'mbr');
  const mayBeOn = inUefi && (secureBoot === 'on' || secureBoot === undefined);
  if (release.loader === 'unsigned' && mayBeOn)
    return [
      {
        id: 'secure-boot-off',
        to: { switch: 'secure-boot', on: false },
        title: 'Turn Secure Boot off',
        why: 'The loader of the release is not signed: Secure Boot would refuse the installer and the system.',
        caution:
          'The recovery key may be asked for at the next start: have it at hand. What relies on Secure Boot in a system that stays does not work while it is off.',
        certainty: secureBoot === undefined ? 'ask' : 'needed',
      },
    ];
  // Where such a loader starts the device now, with Secure Boot on, it is allowed already.
  const isAllowed = presentLoader === 'third-party' && mayBeOn;
  return release.loader === 'third-party' && !isAllowed && (mayBeOn || turnsOn)
    ? [
        {
          id: 'others-loaders',
          to: { switch: 'others-loaders', on: true },
          title: 'Allow loaders that others signed, under Secure Boot',
          why: 'The loader of the release is signed, and not by the key that every firmware carries.',
          caution: keyCaution,
          certainty: 'ask',
        },
      ]
    : [];
}

/**
 * The firmware switches that a release asks for on this device: Secure Boot, security chip, legacy compatibility, USB
 * start. None for a check that is waived, nor one that the device does not have. In which order they are turned the
 * plan says: Secure Boot can be turned in UEFI mode only.
 */
export function firmwareSwitches(on: StartOn): readonly FirmwareSwitch[] {
  const { release, facts, model, waivers, fromStick } = on;
  const wants = (kind: RequirementKind) =>
    !waivers.includes(kind) && release.requirements.some((requirement) => requirement.kind === kind);
  const switches: FirmwareSwitch[] = [];
  const secureBoot = valueOf(facts, 'secureBoot');
  const hasSecureBoot = secureBoot !== 'not-supported' || model?.secureBootCapable === true;
  if (wants('secure-boot') && hasSecureBoot && secureBoot !== 'on')
    switches.push({
      id: 'secure-boot-on',
      to: { switch: 'secure-boot', on: true },
      title: 'Turn Secure Boot on',
      why: 'The release starts only signed loaders.',
      caution: keyCaution,
      certainty: secureBoot === undefined ? 'ask' : 'needed',
    });
  if (startingMode(on) !== 'legacy' && hasSecureBoot) switches.push(...forLoader(on, wants('secure-boot')));
  const chip = valueOf(facts, 'tpm');
  if (wants('tpm') && (chip === undefined || chip === 'present-off'))
    switches.push({
      id: 'tpm-on',
      to: { switch: 'chip', on: true },
      title: 'Turn the security chip (TPM) on',
      why: 'The release keeps its keys in it.',
      caution: keyCaution,
      certainty: chip === undefined ? 'ask' : 'needed',
    });
  const mode = valueOf(facts, 'firmwareMode');
  // Firmware with both modes starts it as it is, unless the release insists; so does one that starts from GPT now.
  const startsUefi = mode === 'uefi-with-legacy' || (mode === undefined && on.stays === 'gpt');
  const asItIs = mode === 'uefi' || (startsUefi && !wants('firmware-mode'));
  if (startingMode(on) === 'uefi' && !asItIs)
    switches.push({
      id: 'legacy-off',
      to: { switch: 'mode', only: 'uefi' },
      title: mode === 'legacy' ? 'Switch the firmware to UEFI mode' : 'Turn legacy compatibility off',
      why: 'The target starts in UEFI mode.',
      caution:
        'A system installed on MBR does not start any more afterwards: turn this only when it is to be replaced or the disk has been converted.',
      certainty: mode === undefined ? 'ask' : 'needed',
    });
  if (fromStick)
    switches.push({
      id: 'usb-start',
      to: { switch: 'usb-start', on: true },
      title: 'Allow starting from USB',
      why: 'Else the stick is not offered.',
      certainty: 'ask',
    });
  return switches;
}
