import type { api } from '@ulvane/contract';
import type { DataSet } from '@ulvane/core/backup';
import type { HouseRules } from '@ulvane/core/rules';
import type { RouteId, Wish } from '@ulvane/core/route';
import type { DiskWork, Preparation } from '@ulvane/core/runbook';
import type { Survey } from '@ulvane/core/survey';
import type { z } from 'zod';

export type Runbook = z.infer<(typeof api)['runbook']['response']>;

/** One practised case: a computer, what is wanted, the way that is chosen, and what a practitioner wants to see. */
export type Case = {
  readonly name: string;
  readonly survey: Survey;
  readonly wish: Pick<Wish, 'purpose'> & { readonly until?: string };
  /** Settings in which this move does not follow the house. */
  readonly rules?: Partial<HouseRules>;
  readonly choose: {
    readonly routeId: RouteId;
    readonly releaseId: string;
    readonly installerMedium?: string;
    readonly waivers?: readonly string[];
    readonly disk?: { readonly name: string; readonly serial: string };
    readonly room?: { readonly bytes: number; readonly fromPartition: number | null };
  };
  readonly sets: readonly DataSet[];
  readonly licence?: string;
  /** How large the system is to be, and which partitions are wanted beside it. */
  readonly layout?: Pick<Preparation, 'wantedSystemBytes' | 'dataParts'>;
  readonly disk?: { readonly disk: string; readonly work: DiskWork };
  readonly capsules?: readonly object[];
  /** Kinds of steps that stand in the runbook in this order, perhaps with others between them. */
  readonly inOrder: readonly string[];
  readonly without?: readonly string[];
  /** What steps say: a kind, and words of its title, reason, success or caution. */
  readonly says: readonly (readonly [kind: string, words: string | RegExp])[];
};
