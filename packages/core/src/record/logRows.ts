import { proofs } from '../backup/copies/grade';
import type { ChainLine } from './chain';
import type { Stage } from './stage';

type LogStage = Exclude<Stage, 'done'>;

/** Which stage a kind of line belongs to; any other belongs where the line before does. */
const stageByKind: Readonly<Record<string, LogStage>> = {
  'move-started': 'survey',
  'identity-set': 'survey',
  'survey-taken': 'survey',
  'fact-typed': 'survey',
  'fact-forgotten': 'survey',
  'list-taken': 'survey',
  'wish-stated': 'decide',
  'route-chosen': 'decide',
  'practice-departed': 'decide',
  'practice-followed': 'decide',
  'data-sets-set': 'save',
  'destinations-set': 'save',
  'copy-compared': 'save',
  'copy-sampled': 'save',
  'copy-stated': 'save',
  'copy-withdrawn': 'save',
  // Written by earlier releases, which did not tell the grades apart.
  'copy-verified': 'save',
  'copy-unverified': 'save',
  'copy-differs': 'save',
  'file-list-recorded': 'save',
  'forgotten-answered': 'save',
  'forgotten-open': 'save',
  'renames-kept': 'save',
  prepared: 'prepare',
  planned: 'prepare',
  'planned-again': 'prepare',
  'disk-planned': 'prepare',
  'disk-unplanned': 'prepare',
  'capsule-kept': 'prepare',
  'handover-noted': 'hand-over',
  'answer-ticked': 'cross',
  'answer-unticked': 'cross',
  'owner-told': 'hand-over',
  'differences-explained': 'hand-over',
  'backup-kept': 'hand-over',
  'backup-wiped': 'hand-over',
  'signed-off': 'hand-over',
};

/** Lines that whoever reads a log looks for: overrules, corrections, what differed, what came from elsewhere. */
const exceptions: ReadonlySet<string> = new Set([
  'gate-overruled',
  'step-unsigned',
  'step-corrected',
  'trouble-seen',
  'detour-started',
  'detour-left',
  'trouble-closed',
  'copy-withdrawn',
  'copy-unverified',
  'copy-differs',
  'record-repaired',
  'record-rolled-back',
  'move-imported',
  'secret-shown',
  'called-off',
  'resumed',
]);

/** Lines that stand for themselves even among many. */
const landmarks: ReadonlySet<string> = new Set(['move-started', 'route-chosen', 'signed-off']);

export function isException({ kind }: Pick<ChainLine, 'kind'>): boolean {
  return exceptions.has(kind);
}

const proofByKind: Readonly<Record<string, LineProof>> = {
  'copy-compared': 'compared',
  'copy-sampled': 'sampled',
  'copy-stated': 'stated',
  'copy-differs': 'compared',
  'survey-taken': 'measured',
  'list-taken': 'measured',
  'file-list-recorded': 'measured',
  'capsule-kept': 'measured',
  reconciled: 'compared',
  'wish-stated': 'decision',
  'route-chosen': 'decision',
  'practice-departed': 'decision',
  'practice-followed': 'decision',
  planned: 'decision',
  'planned-again': 'decision',
  'disk-planned': 'decision',
  'disk-unplanned': 'decision',
  'gate-overruled': 'decision',
};

export const lineProofs = [...proofs, 'decision'] as const;
export type LineProof = (typeof lineProofs)[number];

/** How what a line says was found: read from the device, compared, sampled, decided; else somebody stated it. */
export function proofOf({ kind }: Pick<ChainLine, 'kind'>): LineProof {
  return proofByKind[kind] ?? 'stated';
}

export type LogRow =
  | { readonly kind: 'line'; readonly line: ChainLine }
  | { readonly kind: 'fold'; readonly stage: LogStage; readonly lines: readonly ChainLine[] };

const foldedFrom = 3;

/**
 * The rows of a log as it is read: runs of ordinary lines of one stage are folded, exceptions and
 * landmarks stand by themselves. Every line is in exactly one row, in its order.
 * @param crossing number of the line that crossed the Line; it stands by itself, and nothing is folded across it
 */
export function foldLog(lines: readonly ChainLine[], crossing: number | null = null): readonly LogRow[] {
  const rows: LogRow[] = [];
  let run: ChainLine[] = [];
  let stage: LogStage = 'survey' as LogStage;
  const close = () => {
    if (run.length >= foldedFrom) rows.push({ kind: 'fold', stage, lines: run });
    else rows.push(...run.map((line) => ({ kind: 'line', line }) as const));
    run = [];
  };
  for (const [index, line] of lines.entries()) {
    const below = crossing !== null && line.number > crossing;
    const next: LogStage = stageByKind[line.kind] ?? (below && stage !== 'hand-over' ? 'settle' : stage);
    const alone =
      isException(line) || landmarks.has(line.kind) || line.number === crossing || index === lines.length - 1;
    if (alone || next !== stage) close();
    stage = next;
    if (alone) rows.push({ kind: 'line', line });
    else run.push(line);
  }
  close();
  return rows;
}
