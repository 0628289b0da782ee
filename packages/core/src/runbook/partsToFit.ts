import { assessed } from '../assess/assessed';
import type { Fix, Part } from '../assess/judgement';
import type { FittedPart } from '../machine/state';
import type { StepInput } from './input';

/** A part that the release asks for and the device lacks, with what fitting it takes. */
type PartToFit = {
  readonly part: FittedPart;
  readonly fix: Fix;
  /** What the device has, and what is asked for. */
  readonly sentence: string;
};

const kinds: Readonly<Record<Part['kind'], FittedPart>> = {
  memory: 'memory',
  'solid-state disk': 'disk',
  'network adapter': 'adapter',
};

/** The parts that are fitted before the release is installed; none for a check that is waived. */
export function partsToFit(
  input: Pick<StepInput, 'release' | 'facts' | 'model' | 'waivers'>,
): readonly PartToFit[] {
  const { release, waivers } = input;
  if (!release) return [];
  return assessed(release, input).judgements.flatMap(({ rule, fix, sentence }) =>
    fix?.part && !waivers.includes(rule) ? [{ part: kinds[fix.part.kind], fix, sentence }] : [],
  );
}
