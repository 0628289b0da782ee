import type { ProblemCode } from '../../outcome/problemCodes';
import { readPadded, type SectorSource } from '../sectors/sectorSource';
import { parseMbrSector } from './mbrSector';
import type { Finding, TablePartition } from './partitionTable';
import { extendedBytes, printTypeByte } from './partitionTypes';

/** Logical partitions from 5 on, up to 128 in all: more are not followed. */
const maxLogicals = 124;
/** Links that name no partition are followed, too, but not for ever. */
const maxLinks = 256;

/**
 * Follows the chain of EBRs inside an extended partition. Each names one logical partition from its own
 * place, and the next EBR from the extended partition's start. Loops, links that lead outside and
 * chains without end are findings; what was read before them is kept.
 */
export function readEbrChain(
  source: SectorSource,
  extended: { readonly startLba: number; readonly sectorCount: number },
): { readonly partitions: readonly TablePartition[]; readonly findings: readonly Finding[] } {
  const partitions: TablePartition[] = [];
  const findings: Finding[] = [];
  const seen = new Set<number>();
  const end = extended.startLba + extended.sectorCount;
  const found = (code: ProblemCode, lba: number, sentence: string) =>
    findings.push({ code, path: `/lba/${lba}`, sentence, weight: 'damage' });
  let lba = extended.startLba;
  for (;;) {
    if (seen.has(lba)) {
      found(
        'ebr-loop',
        lba,
        `The chain of logical partitions comes back to sector ${lba}: it is a loop, and what follows cannot be trusted. Copy the data off before anything is written.`,
      );
      break;
    }
    seen.add(lba);
    const { bytes, missingBytes } = readPadded(source, lba, 1);
    const { signed, entries } = parseMbrSector(bytes);
    if (missingBytes > 0 || !signed) {
      found(
        'ebr-unsigned',
        lba,
        `Sector ${lba} should tell of a logical partition and carries no 0x55AA: the chain is broken here.`,
      );
      break;
    }
    const [own, link] = entries;
    if (own && own.type !== 0 && own.sectorCount > 0 && own.startLba > 0)
      partitions.push({
        number: 5 + partitions.length,
        kind: 'logical',
        startLba: lba + own.startLba,
        sectorCount: own.sectorCount,
        typeCode: printTypeByte(own.type),
        ebrLba: lba,
        ...(own.status === 0x80 ? { active: true } : {}),
      });
    else if (own && own.type !== 0)
      found(
        'entry-empty',
        lba,
        `The logical partition that sector ${lba} tells of has no start or no length.`,
      );
    if (!link || !extendedBytes.includes(link.type) || link.sectorCount === 0) break;
    const next = extended.startLba + link.startLba;
    if (next >= end || next < extended.startLba) {
      found(
        'ebr-outside',
        lba,
        `Sector ${lba} says that the chain goes on at ${next}, outside the extended partition: the chain is broken here.`,
      );
      break;
    }
    if (partitions.length >= maxLogicals || seen.size >= maxLinks) {
      found(
        'ebr-too-long',
        lba,
        `The chain has more than ${maxLogicals} logical partitions or ${maxLinks} links: the rest of it is not followed.`,
      );
      break;
    }
    lba = next;
  }
  return { partitions, findings };
}
