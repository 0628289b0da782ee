import { fail, succeed, type Outcome, type Problem } from '../outcome/outcome';

export type ListKind = 'checksum-list' | 'bag' | 'csv';

/** A bag with a `fetch.txt` that names anything is not whole (RFC 8493, 2.2.3). */
export const bagWithFetch: Problem = {
  code: 'bag-with-fetch',
  path: 'fetch.txt',
  sentence:
    'fetch.txt names files that are somewhere else and are still to be fetched: a bag with it is not whole. Fetch them, and take the bag’s manifest-sha256.txt.',
};

/**
 * What a list is, by its name and its first bytes. Papers of a bag that are no list of its files are refused with the
 * one to take (RFC 8493): `fetch.txt` names files that are not in the bag at all.
 */
export function kindOfList(name: string, head: string): Outcome<ListKind> {
  if (/^fetch\.txt$/i.test(name)) return { ok: false, problems: [bagWithFetch] };
  if (/^tagmanifest-/i.test(name))
    return fail(
      'tag-manifest',
      '',
      `${name} is the list of the bag’s own papers, not of its files: take manifest-sha256.txt, with the others beside it if you like.`,
    );
  const lines = head.replace(/^\uFEFF/, '');
  if (/^\\?[A-Z0-9-]+ \(.*\) = [0-9a-fA-F]+/.test(lines)) return succeed('checksum-list');
  if (!/^\\?[0-9a-fA-F]{32,128}[ \t]/.test(lines)) return succeed('csv');
  return succeed(
    /^[0-9a-fA-F]{32,128}[ \t]+(\.\/)?data\//.test(lines) && /manifest/i.test(name) ? 'bag' : 'checksum-list',
  );
}
