import { printCount } from '@ulvane/core/quantity';
import type { Requirement } from '@ulvane/core/catalogue';
import { printBothUnits } from '@ulvane/core/quantity';

/** A requirement in words. @example requirementText({ kind: 'cores', minimum: 2 }) // '2 cores or more' */
export function requirementText(requirement: Requirement): string {
  switch (requirement.kind) {
    case 'word-size':
      return `${requirement.bits}-bit processor`;
    case 'cores':
      return `${printCount(requirement.minimum, 'core')} or more`;
    case 'clock':
      return `${requirement.minimumMhz} MHz or more`;
    case 'processor-features':
      return `Processor features ${requirement.flags.join(', ')}`;
    case 'memory':
      return `${printBothUnits(requirement.minimumBytes)} of memory or more`;
    case 'system-disk':
      return `A disk of ${printBothUnits(requirement.minimumBytes)} or more`;
    case 'firmware-mode':
      return 'Firmware in UEFI mode';
    case 'secure-boot':
      return 'Secure Boot possible';
    case 'tpm':
      return `Security chip (TPM) ${requirement.minimum}`;
    case 'graphics':
      return `Graphics tier ${requirement.minimumTier} or more`;
    case 'screen':
      return `Screen of ${requirement.minimumWidth} × ${requirement.minimumHeight} pixels or more`;
    case 'setup-network':
      return 'A network during set-up';
    case 'model-range':
      return `${requirement.maker} computers from ${requirement.fromYear} on`;
  }
}
