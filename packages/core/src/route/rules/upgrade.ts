import { releaseTitle } from '../../catalogue/find';
import { valueOf } from '../../survey/facts';
import { allows, excludes, targetOf, type RouteRule } from '../definition';
import { unknown } from './unknownFact';

export const allowedJump: RouteRule = {
  id: 'allowed-jump',
  reads: ['presentRelease'],
  judge: (context) => {
    const { release } = targetOf(context);
    if (!context.present) return unknown('presentRelease', 'an upgrade starts from certain releases only');
    return release.upgradesFrom.includes(context.present.id)
      ? allows(`${releaseTitle(context.present)} may be upgraded to ${releaseTitle(release)}.`)
      : excludes(`${releaseTitle(context.present)} cannot be upgraded to ${releaseTitle(release)} in place.`);
  },
  remedies: ({ present, releases, target }) =>
    releases
      .filter(
        (between) =>
          present !== undefined &&
          between.wordBits === present.wordBits &&
          between.upgradesFrom.includes(present.id) &&
          target?.release.upgradesFrom.includes(between.id),
      )
      .map((between) => ({
        id: `upgrade-first-${between.id}`,
        action: `Upgrade to ${releaseTitle(between)} first`,
        handsOnMinutes: 30,
        cost: 0,
        gives: () => ({ presentRelease: between.id }),
      })),
};

export const sameWordSize: RouteRule = {
  id: 'same-word-size',
  reads: ['presentRelease'],
  judge: (context) => {
    const { release } = targetOf(context);
    if (!context.present) return unknown('presentRelease', 'its word size must match');
    return context.present.wordBits === release.wordBits
      ? allows(`Both systems work with ${release.wordBits} bit.`)
      : excludes(
          `The present system works with ${context.present.wordBits} bit and the target with ${release.wordBits}: that takes a clean install.`,
        );
  },
};

export const sameLanguage: RouteRule = {
  id: 'same-language',
  reads: ['presentLanguage'],
  judge: (context) => {
    const { release } = targetOf(context);
    const language = valueOf(context.facts, 'presentLanguage');
    if (language === undefined) return unknown('presentLanguage', 'the upgrade must be in the same one');
    return release.languages.includes(language)
      ? allows(`The release comes in the present language (${language}).`)
      : excludes(`The release does not come in the present language (${language}).`);
  },
  remedies: (context) => {
    const [language] = targetOf(context).release.languages;
    return language === undefined
      ? []
      : [
          {
            id: `language-${language}`,
            action: `Set the present system to a language of the release (${language})`,
            handsOnMinutes: 25,
            cost: 0,
            gives: () => ({ presentLanguage: language }),
          },
        ];
  },
};
