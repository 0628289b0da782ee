import type { LoaderSignature } from '../catalogue/catalogue';
import type { Goal } from './goal';
import type { FittedPart, Machine, Mode, Note, SystemId } from './state';

type Sets = { readonly destination: string; readonly sets: readonly string[] };
type OnDisk = { readonly disk: string };
type OnPartition = { readonly disk: string; readonly partition: number };
type Nothing = Record<never, never>;

/** What is known of the system that is put on a disk. */
export type NewSystem = {
  readonly disk: string;
  /** The mode that it is to start in; undefined where nobody knows yet. */
  readonly mode: Mode | undefined;
  /** Owner and organisation have to agree in writing first. */
  readonly consents: boolean;
  readonly after: {
    readonly needsShim: boolean;
    readonly signature: LoaderSignature;
    /** It takes a licence that has to be activated. */
    readonly licence: boolean;
    /** A driver for one of the device's adapters comes with it. */
    readonly networkDriver: boolean;
  };
};

/** Everything that can be done to a machine, and with what. */
type Deeds = {
  readonly note: { readonly note: Note };
  readonly copy: Sets;
  readonly verify: Sets;
  readonly restore: Sets;
  readonly 'move-data': Sets;
  readonly 'image-disk': Nothing;
  /** Data sets that were written over are looked for where they were put back. */
  readonly account: { readonly sets: readonly string[]; readonly where: WorkPlace };
  /** The owner or the technician works there: nothing of the machine changes. */
  readonly use: { readonly where: WorkPlace; readonly withData: boolean };
  /** The owner signs that what was decided is reached. */
  readonly 'hand-over': { readonly goal: Goal };
  readonly 'write-installer': {
    readonly kind: 'stick' | 'disc' | 'partition' | 'image';
    readonly modes: readonly Mode[];
  };
  readonly 'make-installer-partition': OnDisk;
  readonly 'remove-installer': Nothing;
  readonly 'write-shim': { readonly onto: 'installer' | 'disk' };
  readonly 'take-out': Nothing;
  readonly 'put-in': Nothing;
  readonly start: {
    readonly what: StartFrom;
    /** The firmware refuses this installer without a shim. */
    readonly shim?: boolean;
  };
  readonly 'set-switch': { readonly to: Position };
  readonly 'set-up': {
    /** The release goes no further without one. */
    readonly withNetwork: boolean;
  };
  readonly 'list-systems': Nothing;
  readonly 'fit-part': {
    readonly part: FittedPart;
    /** The disk with the present system. */
    readonly disk: string;
  };
  readonly unplug: OnDisk;
  readonly plug: OnDisk;
  readonly label: OnDisk;
  readonly identify: OnDisk;
  readonly 'keep-sectors': OnDisk;
  readonly 'connect-mains': Nothing;
  readonly shrink: OnPartition;
  readonly 'move-partition': OnPartition;
  readonly 'delete-partition': OnPartition;
  readonly convert: OnDisk & { readonly scheme: 'gpt' | 'mbr' };
  readonly 'write-loader': {
    /** Default: the present system. */
    readonly of?: SystemId;
  };
  readonly erase: OnDisk;
  readonly 'format-system': OnDisk;
  readonly wipe: OnDisk;
  readonly install: NewSystem & {
    readonly into: 'empty-disk' | 'system-partition' | 'free-run';
    /** Partitions for data are made on the installer's own page as well. */
    readonly dataApart?: true;
  };
  readonly upgrade: NewSystem;
  readonly 'install-over': NewSystem;
  readonly update: {
    /** Default: the new system. */
    readonly of?: SystemId;
  };
  readonly 'make-recovery-medium': Nothing;
  readonly 'fit-drivers': {
    /** Drivers of attached devices come from the second stick. */
    readonly carried: boolean;
  };
  readonly 'patch-drivers': Nothing;
  readonly activate: Nothing;
  readonly firewall: Nothing;
  readonly encrypt: Nothing;
  readonly 'make-data-partition': Nothing;
  readonly 'suspend-encryption': Nothing;
  readonly 'resume-encryption': { readonly system: SystemId };
  readonly 'shut-down-fully': Nothing;
  readonly isolate: {
    readonly system: SystemId;
    /** It is kept beside another, and started from the menu. */
    readonly fromMenu: boolean;
  };
};

export type OperatorKind = keyof Deeds;

export type OperatorOf<K extends OperatorKind> = { readonly op: K } & Deeds[K];

/** Something that is done to a machine. What each kind needs, does and risks is in `operatorRules.ts`. */
export type Operator = { readonly [K in OperatorKind]: OperatorOf<K> }[OperatorKind];

/** Where the owner works in the end. */
export type WorkPlace = 'present' | 'target' | 'new-device';

type StartFrom = SystemId | 'firmware' | 'installer' | 'installer-inside' | 'live';

export type Position =
  | { readonly switch: 'secure-boot' | 'others-loaders' | 'chip' | 'usb-start'; readonly on: boolean }
  | { readonly switch: 'mode'; readonly only: Mode }
  | { readonly switch: 'first'; readonly first: 'disk' | 'medium' };

/** A kind of operator, or the one that puts something certain on paper. */
export type Supplier = Exclude<OperatorKind, 'note'> | `note:${Note}`;

/** A precondition that does not hold: what is missing, and which operators would supply it. */
export type Need = {
  readonly missing: string;
  /** Empty: nothing brings it back any more. */
  readonly suppliedBy: readonly Supplier[] | 'anything';
};

/** What one kind of operator means. */
export type OperatorRule<K extends OperatorKind> = {
  /** The system that it is done in: it runs then, or is started for it. Default: none. */
  readonly inside?: (machine: Machine, operator: OperatorOf<K>) => SystemId | undefined;
  /** The preconditions that do not hold; empty where it can be done. */
  readonly needs: (machine: Machine, operator: OperatorOf<K>) => readonly Need[];
  readonly does: (machine: Machine, operator: OperatorOf<K>) => Machine;
  /** The data sets that may be gone when it is broken off half-way. Default: none. */
  readonly risks?: (machine: Machine, operator: OperatorOf<K>) => readonly string[];
};
