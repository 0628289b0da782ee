import type { PageKind, PageMoment } from '../../catalogue/installerPage';
import type { FactKey } from '../../survey/facts';

/** A piece of an answer, and how it is shown: plain, in bold, as it is typed, picked, or not to be picked. */
export type AnswerPiece = {
  readonly text: string;
  readonly as: 'plain' | 'bold' | 'typed' | 'picked' | 'not-picked';
};

/** Where an answer comes from. */
export type AnswerSource =
  'survey' | 'decision' | 'house-rule' | 'disk-plan' | 'vault' | 'release' | 'preparation';

/** What the maker of an answer says. */
export type Answer = {
  /** What the hand does on that page. */
  readonly hand: 'choose' | 'type' | 'leave';
  readonly pieces: readonly AnswerPiece[];
  readonly from: AnswerSource;
  readonly caution?: string;
  /** The fact without which nobody can answer, and how it is found out. */
  readonly missing?: { readonly fact: FactKey; readonly howToFind: string };
  /** A secret of this kind belongs on the page; it is shown from the vault only. */
  readonly secret?: 'licence-key' | 'wireless-key' | 'password';
};

/** A page of the installer with its answer. */
export type AnsweredPage = Answer & {
  /** The kind of the page; a second page of that kind has its number behind it. */
  readonly id: string;
  readonly kind: PageKind;
  readonly name: string;
  readonly when: PageMoment;
  readonly needsNetwork: boolean;
};

export const plain = (text: string): AnswerPiece => ({ text, as: 'plain' });
export const bold = (text: string): AnswerPiece => ({ text, as: 'bold' });
export const typed = (text: string): AnswerPiece => ({ text, as: 'typed' });

/** An answer as words: what a tick was given for. */
export function answerText({ pieces, missing }: Pick<Answer, 'pieces' | 'missing'>): string {
  return missing
    ? 'unknown'
    : pieces
        .filter(({ as }) => as !== 'not-picked')
        .map(({ text }) => text)
        .join(' ');
}
