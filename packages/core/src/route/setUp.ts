import type { Release } from '../catalogue/catalogue';
import { releaseTitle } from '../catalogue/find';
import type { AccountKind, HouseRules } from '../rules/houseRules';
import type { RouteDefinition } from './definition';

/** Accounts in the words of steps, of the answer sheet and of Decide. */
export const accountWords: Readonly<Record<AccountKind, string>> = {
  organisation: 'the organisation’s account',
  online: 'the owner’s online account',
  local: 'a local account',
};

type Given = {
  readonly houseRules: Pick<HouseRules, 'account' | 'networkDuringSetup' | 'encryption'>;
  readonly release: Release | undefined;
};

/** The account that set-up makes: the house's, or what the release offers instead. */
export function accountAtSetUp({ houseRules, release }: Given): AccountKind {
  const wanted = houseRules.account;
  if (!release || release.accounts.includes(wanted)) return wanted;
  return release.accounts[0] ?? wanted;
}

/** Whether a release fetches packages over the network while it is installed. */
const fetchesPackages = (release: Release) =>
  release.requirements.some(({ kind }) => kind === 'setup-network');

/** Whether set-up has no network: the house wants none, and the release goes on without. */
export function setsUpOffline({ houseRules, release }: Given): boolean {
  const isNeeded = release !== undefined && (release.firstStartNetwork || fetchesPackages(release));
  return houseRules.networkDuringSetup === 'offline' && !isNeeded;
}

/** Two things that set-up cannot do both, and the ways out. */
export type SetUpConflict = {
  readonly id:
    'network-at-first-start' | 'account' | 'network-for-account' | 'network-for-packages' | 'encryption';
  readonly sentence: string;
  readonly waysOut: readonly string[];
};

/**
 * House rules and what a release's set-up can do, held against each other: network, account, encryption. Empty where
 * nothing is set up anew.
 * @param others releases that could be taken instead
 */
export function setUpConflicts(
  route: Pick<RouteDefinition, 'steps'>,
  { houseRules, release }: Given,
  others: readonly Release[] = [],
): readonly SetUpConflict[] {
  if (!release || !route.steps.includes('first-start') || route.steps.includes('start-upgrade')) return [];
  const title = releaseTitle(release);
  const isOffline = houseRules.networkDuringSetup === 'offline';
  const online = 'Set up online: make an exception from the house rule.';
  const conflicts: SetUpConflict[] = [];
  if (isOffline && release.firstStartNetwork) {
    const instead = others.find(
      ({ family, version, firstStartNetwork }) =>
        family === release.family && version === release.version && !firstStartNetwork,
    );
    conflicts.push({
      id: 'network-at-first-start',
      sentence: `The house sets up offline, and ${title} goes no further without a network at its first start.`,
      waysOut: [
        'Connect it at that page, and not before.',
        ...(instead ? [`Take ${releaseTitle(instead)}, which asks for none.`] : []),
      ],
    });
  } else if (isOffline && fetchesPackages(release))
    conflicts.push({
      id: 'network-for-packages',
      sentence: `The house sets up offline, and ${title} fetches packages over the network during the install.`,
      waysOut: ['Connect it for the install, and not before.', online],
    });
  const kind = accountAtSetUp({ houseRules, release });
  if (kind !== houseRules.account)
    conflicts.push({
      id: 'account',
      sentence: `The house wants ${accountWords[houseRules.account]}, and ${title} offers ${accountWords[kind]}.`,
      waysOut: [`Make ${accountWords[kind]}.`],
    });
  if (kind !== 'local' && setsUpOffline({ houseRules, release }))
    conflicts.push({
      id: 'network-for-account',
      sentence: `The house sets up offline, and ${accountWords[kind]} needs the network.`,
      waysOut: [
        ...(release.accounts.includes('local') ? ['Make a local account first, and sign in later.'] : []),
        online,
      ],
    });
  const { encryption } = houseRules;
  if (encryption !== 'off' && !release.encryptsAt.includes(encryption))
    conflicts.push({
      id: 'encryption',
      sentence:
        encryption === 'after'
          ? `The house encrypts after set-up, and ${title} is encrypted during the install or never.`
          : `The house encrypts during set-up, and ${title} can do that afterwards only.`,
      waysOut: [
        encryption === 'after'
          ? 'It is encrypted during the install: the passphrase goes into the vault first.'
          : 'A step afterwards switches it on.',
      ],
    });
  return conflicts;
}

/** A conflict with its ways out as one text. */
export function conflictText({ sentence, waysOut }: SetUpConflict): string {
  return `${sentence} ${waysOut.join(' Or: ')}`;
}
