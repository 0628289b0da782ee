import type { Note, SystemId } from './state';

/** What was decided, as a condition on the last state. */
export type Goal = {
  /** The new system stands on that disk and starts by itself; null where nothing is installed. */
  readonly target: { readonly disk: string; readonly patched: boolean } | null;
  /** Systems that still start afterwards. */
  readonly kept: readonly SystemId[];
  /** Data sets that lie on the disk that is written: in their place at the end. */
  readonly back: readonly string[];
  /** Copies that are made and compared. */
  readonly copies: readonly { readonly dataSet: string; readonly destination: string }[];
  readonly notes: readonly Note[];
  readonly dataPartition: boolean;
  readonly encrypted: boolean;
  /** Its fixes are over, and it is kept: it is off the network. */
  readonly isolated: SystemId | null;
  /** What the target asks of the firmware. */
  readonly firmware: {
    readonly secureBoot: boolean;
    readonly chip: boolean;
    /** In UEFI mode and no other. */
    readonly uefi: boolean;
    readonly firstDisk: boolean;
  };
  /** The disk that leaves the house is empty. */
  readonly emptied: string | null;
};
