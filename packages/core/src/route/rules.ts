import { releaseTitle, supportDaysLeft, supportedUntil } from '../catalogue/find';
import { printBothUnits } from '../quantity/bytes';
import { factTexts } from '../survey/describe';
import { dataPartitions, diskMark, partitionBytes, systemDisk, systemPartition } from '../survey/disk';
import { valueOf, type FactKey } from '../survey/facts';
import {
  allows,
  excludes,
  undecided,
  type RouteContext,
  type RouteRule,
  type RuleFinding,
} from './definition';

function targetOf(context: RouteContext) {
  if (!context.target) throw new RangeError('a rule about a target was asked without one');
  return context.target;
}

function unknown(key: FactKey, needed: string): RuleFinding {
  return undecided(`${factTexts[key].label} unknown; ${needed}.`, factTexts[key].howToFind);
}

export const stillSupported: RouteRule = {
  id: 'still-supported',
  reads: [],
  judge: (context) => {
    const { release } = targetOf(context);
    const until = supportedUntil(release);
    if (until === null) return allows(`${releaseTitle(release)} gets fixes without an end date.`);
    return supportDaysLeft(release, context.today) >= 0
      ? allows(`${releaseTitle(release)} gets fixes until ${until}.`)
      : excludes(`${releaseTitle(release)} has had no fixes since ${until}.`);
  },
};

export const requirementsMet: RouteRule = {
  id: 'requirements-met',
  reads: [],
  judge: (context) => {
    const { assessment } = targetOf(context);
    const of = (verdict: string) =>
      assessment.judgements.filter((judgement) => judgement.verdict === verdict);
    const sentences = (verdict: string) =>
      of(verdict)
        .map(({ sentence }) => sentence)
        .join(' ');
    switch (assessment.verdict) {
      case 'meets':
        return allows('Every requirement is met.');
      case 'fixable':
        return allows(
          `Met after ${assessment.fixMinutes} minutes of fixes: ${of('fixable')
            .map(({ fix }) => fix?.action)
            .join('; ')}.`,
        );
      case 'waivable':
        return excludes(`Below the stated minimum, without a waiver: ${sentences('waivable')}`);
      case 'fails':
        return excludes(sentences('fails'));
      case 'unknown':
        return undecided(sentences('unknown'), of('unknown')[0]?.howToFind ?? '');
    }
  },
};

export const allowedJump: RouteRule = {
  id: 'allowed-jump',
  reads: ['presentRelease'],
  judge: (context) => {
    const { release } = targetOf(context);
    if (!context.present) return unknown('presentRelease', 'an upgrade starts from certain releases only');
    return release.upgradesFrom.includes(context.present.id)
      ? allows(`${releaseTitle(context.present)} may be upgraded to ${releaseTitle(release)}.`)
      : excludes(`${releaseTitle(context.present)} cannot be upgraded to ${releaseTitle(release)} in place.`);
  },
};

export const sameWordSize: RouteRule = {
  id: 'same-word-size',
  reads: ['presentRelease'],
  judge: (context) => {
    const { release } = targetOf(context);
    if (!context.present) return unknown('presentRelease', 'its word size must match');
    return context.present.wordBits === release.wordBits
      ? allows(`Both systems work with ${release.wordBits} bit.`)
      : excludes(
          `The present system works with ${context.present.wordBits} bit and the target with ${release.wordBits}: that takes a clean install.`,
        );
  },
};

export const sameLanguage: RouteRule = {
  id: 'same-language',
  reads: ['presentLanguage'],
  judge: (context) => {
    const { release } = targetOf(context);
    const language = valueOf(context.facts, 'presentLanguage');
    if (language === undefined) return unknown('presentLanguage', 'the upgrade must be in the same one');
    return release.languages.includes(language)
      ? allows(`The release comes in the present language (${language}).`)
      : excludes(`The release does not come in the present language (${language}).`);
  },
};

export const enoughFreeSpace: RouteRule = {
  id: 'enough-free-space',
  reads: ['disks'],
  judge: (context) => {
    const { release } = targetOf(context);
    const needs = printBothUnits(release.upgradeFreeBytes);
    const disks = valueOf(context.facts, 'disks');
    if (disks === undefined) return unknown('disks', `the upgrade needs ${needs} free`);
    const disk = systemDisk(disks);
    const system = systemPartition(disk);
    if (!disk || system?.usedBytes === undefined)
      return undecided(
        `Free space of the system partition unknown; the upgrade needs ${needs}.`,
        'Mark the system partition and type its used bytes, or run the collector while it is mounted.',
      );
    const freeBytes = partitionBytes(disk, system) - system.usedBytes;
    return freeBytes >= release.upgradeFreeBytes
      ? allows(`${printBothUnits(freeBytes)} are free; the upgrade needs ${needs}.`)
      : excludes(
          `${printBothUnits(freeBytes)} are free and the upgrade needs ${needs}: free ${printBothUnits(release.upgradeFreeBytes - freeBytes)} more.`,
        );
  },
};

export const diskSound: RouteRule = {
  id: 'disk-sound',
  reads: ['disks'],
  judge: (context) => {
    const disks = valueOf(context.facts, 'disks');
    if (disks === undefined) return unknown('disks', 'an upgrade on a failing disk loses data');
    const disk = systemDisk(disks);
    if (disk?.health === undefined)
      return undecided(
        'The health of the system disk is unknown; a failing disk does not survive an upgrade.',
        'Read the disk’s own report with the rescue stick’s disk page, and type it among the disks.',
      );
    return disk.health === 'failing'
      ? excludes(`Disk ${diskMark(disk)} is failing: copy it first, and read it once.`)
      : allows(`Disk ${diskMark(disk)} is in ${disk.health} health.`);
  },
};

/** The present table must be one that the target can start from, as the table stays. */
export const schemeSuits: RouteRule = {
  id: 'scheme-suits',
  reads: ['disks', 'firmwareMode'],
  judge: (context) => {
    const { release } = targetOf(context);
    if (release.firmwareModes.includes('legacy')) return allows('The release starts from either scheme.');
    const disks = valueOf(context.facts, 'disks');
    if (disks === undefined) return unknown('disks', 'the release starts from GPT only');
    const scheme = systemDisk(disks)?.scheme;
    if (scheme === undefined)
      return undecided(
        'The system disk’s partition scheme is unknown; the release starts from GPT only.',
        'Run the collector on the device, or read it in the present system’s disk page, and type it.',
      );
    return scheme === 'gpt'
      ? allows('The system disk has GPT, from which the release starts.')
      : excludes(
          'The system disk has MBR and the release starts from GPT only: its scheme would have to be converted first.',
        );
  },
};

export const dataApart: RouteRule = {
  id: 'data-apart',
  reads: ['disks'],
  judge: (context) => {
    const disks = valueOf(context.facts, 'disks');
    if (disks === undefined) return unknown('disks', 'a data partition must lie apart from the system');
    const disk = systemDisk(disks);
    const apart = dataPartitions(disk);
    if (apart.length > 0)
      return allows(`Partition ${apart.map(({ number }) => number).join(', ')} holds data and stays.`);
    if (!disk || disk.partitions.length === 0 || disk.partitions.some(({ role }) => role === undefined))
      return undecided(
        'Whether a partition holds only data is not known.',
        'Mark what each partition of the system disk is for.',
      );
    return excludes('No partition holds only data: everything lies on the system partition.');
  },
};

export const licenceFits: RouteRule = {
  id: 'licence-fits',
  reads: ['activation', 'presentRelease'],
  judge: (context) => {
    const { release } = targetOf(context);
    if (release.activation.includes('none')) return allows('The system needs no licence.');
    if (!context.present) return unknown('presentRelease', 'the licence must fit the edition');
    if (context.present.family !== release.family)
      return excludes(`${releaseTitle(release)} needs a licence of its own.`);
    const activation = valueOf(context.facts, 'activation');
    if (activation === undefined)
      return unknown('activation', `the licence must fit ${releaseTitle(release)}`);
    if (activation === 'none')
      return excludes(`The present system is not activated: ${releaseTitle(release)} needs a licence.`);
    if (!release.activation.includes(activation))
      return excludes(`A licence that is ${activation} does not activate ${releaseTitle(release)}.`);
    return context.present.edition === release.edition || activation === 'volume'
      ? allows(`The present licence (${activation}) fits ${release.edition || release.name}.`)
      : excludes(`The licence is for ${context.present.edition}, not for ${release.edition}.`);
  },
};

export const notOlder: RouteRule = {
  id: 'not-older',
  reads: ['presentRelease'],
  judge: (context) => {
    const { release } = targetOf(context);
    if (!context.present) return unknown('presentRelease', 'the target should not be older');
    return release.version >= context.present.version
      ? allows(`${releaseTitle(release)} is not older than the present system.`)
      : excludes(`${releaseTitle(release)} is older than the present system.`);
  },
};

export const applicationsHaveEquivalents: RouteRule = {
  id: 'applications-have-equivalents',
  reads: ['applications'],
  judge: (context) => {
    const { release } = targetOf(context);
    const names = valueOf(context.facts, 'applications');
    if (names === undefined) return unknown('applications', 'each needs an equivalent');
    const entries = names.map((name) => ({
      name,
      entry: context.applications.find(({ id, name: title }) => id === name || title === name),
    }));
    const locked = entries.filter(
      ({ entry }) => entry?.lockedToFamily !== undefined && entry.lockedToFamily !== release.family,
    );
    if (locked.length > 0)
      return excludes(
        `${locked.map(({ entry, name }) => entry?.name ?? name).join(', ')} exists for the present family only.`,
      );
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
};

export const networkDriver: RouteRule = {
  id: 'network-driver',
  reads: ['networkAdapters'],
  judge: (context) => {
    const { release } = targetOf(context);
    const adapters = valueOf(context.facts, 'networkAdapters');
    if (adapters === undefined) return allows('Try the network on the live system before the Line.');
    return adapters.some(({ driver }) => driver !== undefined && release.bundledDrivers.includes(driver))
      ? allows('The driver of a network adapter comes with the release.')
      : allows('No network driver is known to come with the release: carry one over.');
  },
};
