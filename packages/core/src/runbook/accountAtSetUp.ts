import type { AccountKind } from '../catalogue/installerPage';
import type { StepInput } from './input';

/** Accounts in the words of steps and of the answer sheet. */
export const accountWords: Readonly<Record<AccountKind, string>> = {
  organisation: 'the organisation’s account',
  online: 'the owner’s online account',
  local: 'a local account',
};

/** The account that set-up makes: the house's, or what the release offers instead. */
export function accountAtSetUp({
  houseRules,
  release,
}: Pick<StepInput, 'houseRules' | 'release'>): AccountKind {
  const wanted = houseRules.account;
  if (!release || release.accounts.includes(wanted)) return wanted;
  return release.accounts[0] ?? wanted;
}
