import type { FactKey } from '@ulvane/core/survey';
import { DisksDialog } from './DisksDialog';
import { FactDialog } from './FactDialog';

/** The dialog in which a fact is entered; disks have one of their own. */
export function EnterFact({ factKey, onClose }: { readonly factKey: FactKey; readonly onClose: () => void }) {
  return factKey === 'disks' ? (
    <DisksDialog onClose={onClose} />
  ) : (
    <FactDialog factKey={factKey} onClose={onClose} />
  );
}
