import { printCount } from '../../quantity/count';
import { valueOf, type Facts } from '../../survey/facts';
import type { DataSet } from './dataSet';

type ScopeNotice = {
  readonly dataSetId: string | null;
  /** Whether something would be lost if it stayed so. */
  readonly blocks: boolean;
  readonly sentence: string;
};

/** What in the list of data sets is not yet safe to copy, or not yet listed. */
export function scopeNotices(dataSets: readonly DataSet[], facts: Facts): readonly ScopeNotice[] {
  const notices: ScopeNotice[] = [];
  for (const { id, name, placeholderFiles = 0, encrypted } of dataSets) {
    if (placeholderFiles > 0)
      notices.push({
        dataSetId: id,
        blocks: true,
        sentence: `${name} has ${printCount(placeholderFiles, 'file')} that are only placeholders of a cloud: make them available offline, then set the number to 0. A placeholder copies as a name with nothing in it.`,
      });
    if (encrypted && encrypted.keyWhere.trim() === '')
      notices.push({
        dataSetId: id,
        blocks: true,
        sentence: `${name} has ${printCount(encrypted.files, 'encrypted file')}: note where the key is. Without it the copy is of no use.`,
      });
  }
  const accounts = valueOf(facts, 'accounts') ?? [];
  const spoken = dataSets.map(({ name, path }) => `${name} ${path}`.toLowerCase());
  if (accounts.length > 1)
    for (const account of accounts)
      if (!spoken.some((text) => text.includes(account.toLowerCase())))
        notices.push({
          dataSetId: null,
          blocks: false,
          sentence: `The account ${account} is on the device, and no data set names it: are there files of ${account}’s?`,
        });
  return notices;
}
