import type { Catalogue } from '@ulvane/core/catalogue';
import { FitSchema, fitTable, type FitGroup, type FitOrder, type FitTable } from '@ulvane/core/decide';
import type { HouseRules } from '@ulvane/core/rules';

export type FitInput = {
  /** As the database grouped them: what each group takes is still text. */
  readonly groups: readonly (Omit<FitGroup, 'fit'> & { readonly fit: string })[];
  readonly releases: Catalogue['releases'];
  readonly rates: HouseRules['rates'];
  readonly today: string;
  readonly order: FitOrder;
};

/** Adds up what every release would take over a whole fleet. */
export function addUpFit({ groups, ...given }: FitInput): FitTable {
  // Devices that are alike mostly fit alike: each text is read once.
  const read = new Map<string, FitGroup['fit']>();
  const fitOf = (text: string) => {
    const known = read.get(text);
    if (known) return known;
    const fit = FitSchema.parse(JSON.parse(text));
    read.set(text, fit);
    return fit;
  };
  return fitTable(
    groups.map((group) => ({ ...group, fit: fitOf(group.fit) })),
    given,
  );
}
