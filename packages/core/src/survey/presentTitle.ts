import type { Catalogue } from '../catalogue/catalogue';
import { findRelease, releaseTitle } from '../catalogue/find';
import { isEmptyDevice, valueOf, type Facts } from './facts';

/** The present system in words; empty where it is not known. @example presentTitle(catalogue, facts) // 'Corvel 9 Business' */
export function presentTitle(catalogue: Pick<Catalogue, 'releases'>, facts: Facts): string {
  if (isEmptyDevice(facts)) return 'No system on it';
  const id = valueOf(facts, 'presentRelease');
  const release = findRelease(catalogue, id);
  return release ? releaseTitle(release) : (id ?? '');
}
