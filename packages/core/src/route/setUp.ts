import type { Release, SetUpSkip } from '../catalogue/catalogue';
import { releaseTitle } from '../catalogue/find';
import type { AccountKind, HouseRules } from '../rules/houseRules';
import { valueOf, type Facts } from '../survey/facts';
import type { RouteDefinition } from './definition';

/** Accounts in the words of steps, of the answer sheet and of Decide. */
export const accountWords: Readonly<Record<AccountKind, string>> = {
  organisation: 'the organisation’s account',
  online: 'the owner’s online account',
  local: 'a local account',
};

/** What is left out of set-up, in words. */
export const withoutWords: Readonly<Record<SetUpSkip, string>> = {
  network: 'a network',
  account: 'an online account',
  encryption: 'encryption',
};

type Given = {
  readonly houseRules: Pick<HouseRules, 'account' | 'networkDuringSetup' | 'encryption'>;
  readonly release: Release | undefined;
  /** How the present system is activated, and which licences are at hand. */
  readonly facts?: Facts;
};

/** How set-up of a release is told to go on without something; undefined where it cannot be. */
function skipOf(release: Release | undefined, what: SetUpSkip) {
  return release?.setUpWithout.find((skip) => skip.what === what);
}

/** The account that set-up makes: the house's, or what the release offers instead. */
export function accountAtSetUp({ houseRules, release }: Given): AccountKind {
  const wanted = houseRules.account;
  if (!release || release.accounts.includes(wanted)) return wanted;
  if (wanted === 'local' && skipOf(release, 'account')) return wanted;
  return release.accounts[0] ?? wanted;
}

/** What follows from a sign-in that nobody is asked for; empty where one is. */
export function signInCaution({ automaticSignIn }: Pick<HouseRules, 'automaticSignIn'>): string {
  return automaticSignIn === 'off'
    ? ''
    : 'Sign-in is automatic: whoever switches the device on reads what the account reads, and encryption keeps out only those who take the disk out.';
}

/** Whether a release fetches packages over the network while it is installed. */
const fetchesPackages = (release: Release) =>
  release.requirements.some(({ kind }) => kind === 'setup-network') && !skipOf(release, 'network');

/** Whether the first start goes no further without a network, and cannot be told to. */
export const waitsForNetwork = (release: Release) => release.firstStartNetwork && !skipOf(release, 'network');

/** Whether set-up has no network: the house wants none, and the release goes on without. */
export function setsUpOffline({ houseRules, release }: Given): boolean {
  const isNeeded = release !== undefined && (waitsForNetwork(release) || fetchesPackages(release));
  return houseRules.networkDuringSetup === 'offline' && !isNeeded;
}

/**
 * Whether the licence comes with the owner's account, and set-up makes another one: it activates only once the owner
 * has signed in. A licence for the release that is at hand is taken instead.
 */
export function signsInForLicence({ houseRules, release, facts = {} }: Given): boolean {
  return (
    release !== undefined &&
    release.activation.includes('account-bound') &&
    valueOf(facts, 'activation') === 'account-bound' &&
    valueOf(facts, 'licencesHeld')?.includes(release.id) !== true &&
    accountAtSetUp({ houseRules, release }) !== 'online'
  );
}

/** What set-up is told to go on without, because the house wants it so. */
export function toldToGoWithout(given: Given) {
  const { houseRules, release } = given;
  if (!release) return [];
  const isUsed: Readonly<Record<SetUpSkip, boolean>> = {
    network: release.firstStartNetwork && setsUpOffline(given),
    account: !release.accounts.includes(accountAtSetUp(given)),
    encryption: release.encryptsByItself && houseRules.encryption === 'off',
  };
  return release.setUpWithout.filter(({ what }) => isUsed[what]);
}

/** Two things that set-up cannot do both, and the ways out. */
export type SetUpConflict = {
  readonly id:
    | 'network-at-first-start'
    | 'account'
    | 'network-for-account'
    | 'network-for-packages'
    | 'account-for-licence'
    | 'wireless-in-installer'
    | 'encryption'
    | 'encryption-by-itself';
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
  given: Given,
  others: readonly Release[] = [],
): readonly SetUpConflict[] {
  const { houseRules, release } = given;
  if (!release || !route.steps.includes('first-start') || route.steps.includes('start-upgrade')) return [];
  const title = releaseTitle(release);
  const isOffline = houseRules.networkDuringSetup === 'offline';
  const online = 'Set up online: make an exception from the house rule.';
  const conflicts: SetUpConflict[] = [];
  const without = (what: SetUpSkip) =>
    [skipOf(release, what)].flatMap((skip) => (skip ? [`${skip.how} ${skip.consequence}`] : []));
  if (isOffline && release.firstStartNetwork) {
    const instead = others.find(
      ({ family, version, firstStartNetwork }) =>
        family === release.family && version === release.version && !firstStartNetwork,
    );
    conflicts.push({
      id: 'network-at-first-start',
      sentence: skipOf(release, 'network')
        ? `The house sets up offline, and ${title} asks for a network at its first start: it is told to go on without.`
        : `The house sets up offline, and ${title} goes no further without a network at its first start: nobody has listed a way past it.`,
      waysOut: [
        ...without('network'),
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
  else if (!release.accounts.includes(kind))
    conflicts.push({
      id: 'account',
      sentence: `The house wants ${accountWords[kind]}, and ${title} offers only ${release.accounts.map((one) => accountWords[one]).join(' or ')}: it is told to go on without.`,
      waysOut: without('account'),
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
  if (signsInForLicence(given))
    conflicts.push({
      id: 'account-for-licence',
      sentence: `The licence is bound to the owner’s account, and set-up makes ${accountWords[kind]}.`,
      waysOut: [
        'Have the owner sign in once to activate, present and with the phone that confirms it.',
        ...(release.accounts.includes('online')
          ? ['Set up the owner’s online account: make an exception from the house rule.']
          : []),
        ...(release.activation.includes('key')
          ? ['Take a licence by key, and note it on Survey among the licences at hand.']
          : []),
      ],
    });
  const adapters = valueOf(given.facts ?? {}, 'networkAdapters');
  if (
    release.wireless === 'none' &&
    !setsUpOffline(given) &&
    adapters !== undefined &&
    adapters.length > 0 &&
    adapters.every((adapter) => adapter.kind === 'wireless')
  )
    conflicts.push({
      id: 'wireless-in-installer',
      sentence: `The device has wireless adapters only, and the installer of ${title} joins no wireless network.`,
      waysOut: [
        'A cable by an adapter on USB.',
        'A phone on USB that shares its network, where the owner agrees.',
      ],
    });
  const { encryption } = houseRules;
  if (encryption === 'off' && release.encryptsByItself)
    conflicts.push({
      id: 'encryption-by-itself',
      sentence: skipOf(release, 'encryption')
        ? `${title} encrypts the disks without being asked, and the house encrypts nothing: it is kept from it.`
        : `${title} encrypts the disks without being asked, and the house encrypts nothing.`,
      waysOut: [
        ...without('encryption'),
        'Look at the encryption page at the first start, and switch it off for every disk that says on.',
        'Encrypt, and keep the recovery key in the vault: make an exception from the house rule.',
      ],
    });
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
