import { commandText } from '../../catalogue/command';
import { activationTexts } from '../../route/licence';
import { accountAtSetUp, accountWords, setsUpOffline, signInCaution } from '../../route/setUp';
import { valueOf } from '../../survey/facts';
import { languageFor } from '../mediumOf';
import { bold, plain, typed, type Answer } from './answer';
import { cautionOf, stepNumber, waitsFor, type AnswerContext, type AnswerMaker } from './context';
import { accountName, computerName, languageName } from './names';

const language: AnswerMaker = ({ input, release }) => {
  const present = valueOf(input.facts, 'presentLanguage');
  if (present === undefined) return waitsFor('presentLanguage');
  const code = languageFor(input.facts, release);
  return {
    hand: 'choose',
    pieces: [bold(`${languageName(code)},`), plain('keyboard of the same language: try one word.')],
    from: code === present ? 'survey' : 'release',
    ...(code === present
      ? {}
      : {
          caution: `The release does not come in ${languageName(present)}: the owner has to agree to ${languageName(code)}.`,
        }),
  };
};

/** The adapter to go online with: a cable before a radio, one that the release brings the driver of first. */
function adapterToUse({ input, release }: AnswerContext) {
  const known = valueOf(input.facts, 'networkAdapters') ?? [];
  const isBundled = ({ driver }: (typeof known)[number]) =>
    driver !== undefined && release.bundledDrivers.includes(driver);
  const rank = (one: (typeof known)[number]) => (isBundled(one) ? 0 : 2) + (one.kind === 'wired' ? 0 : 1);
  const best = known.toSorted((a, b) => rank(a) - rank(b))[0];
  return best && { ...best, isBundled: isBundled(best) };
}

/** What is typed to join a wireless network, each with what it does; nothing where a page asks. */
const joining = ({ wireless, wirelessCommands }: AnswerContext['release'], adapter: string) =>
  wireless === 'commands'
    ? wirelessCommands.flatMap(({ does, type }) => [plain(`${does}:`), typed(commandText(type, { adapter }))])
    : [];

const network: AnswerMaker = (context): Answer => {
  const { input } = context;
  if (setsUpOffline(context.input))
    return {
      hand: 'leave',
      pieces: [bold('No network.'), plain('Unplug the cable, join no wireless network.')],
      from: 'house-rule',
      ...cautionOf(context, ['network-at-first-start']),
    };
  if (valueOf(input.facts, 'networkAdapters') === undefined) return waitsFor('networkAdapters');
  const adapter = adapterToUse(context);
  const caution = cautionOf(context, [
    'network-at-first-start',
    'network-for-packages',
    'wireless-in-installer',
  ]);
  if (!adapter)
    return {
      hand: 'choose',
      pieces: [bold('No adapter is known.'), plain('A cable by an adapter on USB.')],
      from: 'survey',
      ...caution,
    };
  return {
    hand: 'choose',
    pieces: [
      bold(`${adapter.name}, ${adapter.kind === 'wireless' ? 'wireless' : 'cable'}.`),
      plain(
        adapter.isBundled ? 'Its driver comes with the release.' : 'Its driver comes from the second stick.',
      ),
      ...(adapter.kind === 'wireless' ? joining(context.release, adapter.name) : []),
    ],
    from: 'survey',
    ...(adapter.kind === 'wireless' ? { secret: 'wireless-key' as const } : {}),
    ...caution,
  };
};

const updates: AnswerMaker = (context) => {
  const later = stepNumber(context.steps, 'updates');
  const afterwards = later === undefined ? 'They come afterwards.' : `Step ${later} brings them.`;
  return setsUpOffline(context.input)
    ? {
        hand: 'choose',
        pieces: [bold('No.'), plain(`There is no network yet. ${afterwards}`)],
        from: 'house-rule',
      }
    : {
        hand: 'choose',
        pieces: [
          bold('Yes,'),
          plain(
            context.input.houseRules.optionalUpdates ? 'optional ones as well.' : 'security updates only.',
          ),
        ],
        from: 'house-rule',
      };
};

const key: AnswerMaker = ({ input, release }): Answer => {
  if (release.activation.every((kind) => kind === 'none'))
    return { hand: 'leave', pieces: [plain('Nothing to enter: no licence is needed.')], from: 'release' };
  const noted = input.preparation.licence?.kind;
  const kind = noted ?? valueOf(input.facts, 'activation');
  const from = noted === undefined ? 'survey' : 'preparation';
  switch (kind) {
    case undefined:
      return waitsFor('activation');
    case 'key':
      return { hand: 'type', pieces: [plain('The key:')], from: 'vault', secret: 'licence-key' };
    case 'digital':
    case 'account-bound':
      return {
        hand: 'choose',
        pieces: [
          bold('I have no key.'),
          plain(
            kind === 'digital'
              ? activationTexts.digital.beforeTheWipe.replace(/^Nothing to write down: it/, 'It')
              : 'It comes with the account that signs in.',
          ),
        ],
        from,
      };
    case 'volume':
      return {
        hand: 'choose',
        pieces: [bold('I have no key.'), plain('The organisation’s server activates it.')],
        from,
      };
    case 'none':
      return { hand: 'leave', pieces: [plain('Nothing to enter.')], from };
  }
};

const edition: AnswerMaker = ({ release }) => ({
  hand: 'choose',
  pieces: [bold(release.edition === '' ? release.name : release.edition), plain('as the licence fits.')],
  from: 'decision',
});

const timeZone: AnswerMaker = ({ input, release }) => {
  const other = input.route.id === 'beside-same-disk' ? input.present?.clock : undefined;
  const clock = release.clock === 'utc' ? 'UTC' : 'local time';
  return {
    hand: 'choose',
    pieces: [bold(`${input.houseRules.timeZone}.`), plain(`The firmware’s clock keeps ${clock}.`)],
    from: 'house-rule',
    ...(other === undefined || other === release.clock
      ? {}
      : {
          caution: `${input.present?.name ?? 'The present system'} keeps ${other === 'utc' ? 'UTC' : 'local time'} in the same clock: set both alike, or the time jumps at every change.`,
        }),
  };
};

const administrator: AnswerMaker = ({ input }) => ({
  hand: 'type',
  pieces: [typed(input.houseRules.setUp.administrator)],
  from: 'vault',
  secret: 'password',
});

const capital = (words: string) => words.charAt(0).toUpperCase() + words.slice(1);

const account: AnswerMaker = (context) => {
  const { input, whose } = context;
  const kind = accountAtSetUp(input);
  const person = valueOf(input.facts, 'accounts')?.[0] ?? whose.owner;
  const more = [
    kind === 'online' ? 'The owner is present, with the phone that confirms the sign-in.' : '',
    signInCaution(input.houseRules),
  ]
    .filter((words) => words !== '')
    .join(' ');
  return {
    hand: 'type',
    pieces: [
      bold(`${capital(accountWords[kind])}:`),
      ...(kind === 'local' && accountName(person) !== '' ? [typed(accountName(person))] : []),
      plain(
        `${kind === 'local' ? 'no administrator.' : 'the owner signs in.'} Automatic sign-in ${input.houseRules.automaticSignIn}.`,
      ),
    ],
    from: 'house-rule',
    ...cautionOf(context, ['account', 'network-for-account', 'account-for-licence'], more),
  };
};

const computersName: AnswerMaker = ({ input, whose }) => ({
  hand: 'type',
  pieces: [typed(computerName(input.houseRules.setUp.computerName, whose))],
  from: 'house-rule',
});

const isMedia = /film|video|music|picture|photo|sound/i;

const codecs: AnswerMaker = (context) => {
  const media = context.input.dataSets.find(({ name }) => isMedia.test(name));
  if (!media)
    return {
      hand: 'leave',
      pieces: [plain('Left out: no data set holds films, music or pictures.')],
      from: 'survey',
    };
  return setsUpOffline(context.input)
    ? {
        hand: 'choose',
        pieces: [bold('Not now.'), plain('There is no network: with the updates.')],
        from: 'house-rule',
      }
    : { hand: 'choose', pieces: [bold('Install.'), plain(`${media.name} needs them.`)], from: 'survey' };
};

const desktop: AnswerMaker = ({ release }) => ({
  hand: 'leave',
  pieces: [release.edition === '' ? plain('As proposed.') : bold(`${release.edition} look.`)],
  from: 'decision',
});

const graphicsDriver: AnswerMaker = () => ({
  hand: 'choose',
  pieces: [
    bold('The one of the release.'),
    plain('The maker’s comes with the drivers, if the picture is poor.'),
  ],
  from: 'release',
});

const sound: AnswerMaker = () => ({ hand: 'leave', pieces: [bold('On.')], from: 'release' });

const privacy: AnswerMaker = (context) => ({
  hand: 'choose',
  pieces: [bold('Nothing is sent.'), plain('Every switch off.')],
  from: 'house-rule',
  // Where no page asks whether to encrypt, this is the last one at which it can be kept from it.
  ...(context.release.pages.some(({ kind }) => kind === 'encryption')
    ? {}
    : cautionOf(context, ['encryption-by-itself'])),
});

export const setUpAnswers = {
  language,
  network,
  updates,
  key,
  edition,
  'time-zone': timeZone,
  administrator,
  account,
  'computer-name': computersName,
  codecs,
  desktop,
  'graphics-driver': graphicsDriver,
  sound,
  privacy,
} as const;
