import fc from 'fast-check';
import { defaultPractice, type Practice } from '../src/practice';
import type { Candidate } from '../src/route';
import type { Facts } from '../src/survey';
import { catalogue, laptopSurvey, laptopWith, splitDisk, today, without } from './shop';

export const inputOf = (facts: Facts, practice: Practice = defaultPractice) => ({
  facts,
  catalogue,
  practice,
  today,
});
export const nameOf = ({ routeId, releaseId }: Pick<Candidate, 'routeId' | 'releaseId'>) =>
  `${routeId} ${releaseId ?? ''}`;

/** Devices of every kind: each fact somewhere between poor and good, and some unknown. */
export const anyDevice: fc.Arbitrary<Facts> = fc
  .record({
    wordBits: fc.constantFrom(32 as const, 64 as const),
    cores: fc.integer({ min: 1, max: 8 }),
    clockMhz: fc.integer({ min: 600, max: 4000 }),
    flags: fc.subarray(['sse2', 'sse4_2', 'popcnt', 'avx2']),
    memoryBytes: fc.integer({ min: 1, max: 16 }).map((gib) => gib * 1024 ** 3),
    mode: fc.constantFrom('uefi' as const, 'legacy' as const, 'uefi-with-legacy' as const),
    secureBoot: fc.constantFrom('on' as const, 'off' as const, 'not-supported' as const),
    tpm: fc.constantFrom('none' as const, 'present-off' as const, '1.2' as const, '2.0' as const),
    graphicsTier: fc.integer({ min: 0, max: 4 }),
    widthPixels: fc.constantFrom(800, 1280, 1920),
    heightPixels: fc.constantFrom(600, 720, 1080),
    model: fc.constantFrom(...catalogue.models),
    release: fc.constantFrom(...catalogue.releases.map(({ id }) => id)),
    activation: fc.constantFrom('digital' as const, 'key' as const, 'volume' as const, 'none' as const),
    health: fc.constantFrom('good' as const, 'failing' as const),
    scheme: fc.constantFrom('gpt' as const, 'mbr' as const),
    usedGb: fc.integer({ min: 5, max: 128 }),
    applications: fc.subarray(catalogue.applications.map(({ id }) => id)),
    unknown: fc.subarray(
      ['tpm', 'secureBoot', 'activation', 'graphicsTier', 'disks', 'memoryBytes'] as const,
      { maxLength: 2 },
    ),
  })
  .map((d) => {
    const facts = laptopWith({
      device: {
        maker: d.model.maker,
        model: d.model.model,
        year: d.model.fromYear,
        chassis: d.model.chassis,
      },
      processor: { wordBits: d.wordBits, cores: d.cores, clockMhz: d.clockMhz, flags: d.flags },
      memoryBytes: d.memoryBytes,
      firmware: {
        mode: d.mode,
        secureBoot: d.mode === 'legacy' && d.secureBoot === 'on' ? 'off' : d.secureBoot,
        tpm: d.tpm,
      },
      display: { graphicsTier: d.graphicsTier, widthPixels: d.widthPixels, heightPixels: d.heightPixels },
      disks: [
        {
          ...splitDisk,
          health: d.health,
          scheme: d.scheme,
          partitions: splitDisk.partitions.map((partition) =>
            partition.role === 'system' ? { ...partition, usedBytes: d.usedGb * 1e9 } : partition,
          ),
        },
      ],
      system: {
        ...laptopSurvey.system,
        release: d.release,
        activation: d.activation,
        applications: d.applications,
      },
    });
    return d.unknown.reduce<Facts>((so, key) => without(so, key), facts);
  });
