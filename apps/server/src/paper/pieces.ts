import bidiFactory from 'bidi-js';
import { faces, houseFace, type Face } from './faces';

export const bidi = bidiFactory();

/** A piece of text in one font and one direction; `break-all`: may be broken behind any sign. */
export type Piece = { readonly text: string; readonly font: string; readonly wordBreak?: 'break-all' };

const graphemes = new Intl.Segmenter('en', { granularity: 'grapheme' });

function coversAll(face: Face, grapheme: string): boolean {
  return [...grapheme].every((character) => face.covers(character.codePointAt(0) ?? 0));
}

const faceOf = new Map<string, Face | null>();

/** The first face that has every sign of the grapheme. */
function faceFor(grapheme: string): Face | null {
  const known = faceOf.get(grapheme);
  if (known !== undefined) return known;
  const face = faces.find((one) => coversAll(one, grapheme)) ?? null;
  faceOf.set(grapheme, face);
  return face;
}

/** Signs that no font has, and those that cannot be seen, by their numbers: nothing is left out. */
function byNumber(grapheme: string): string {
  return [...grapheme]
    .map((character) => `[U+${(character.codePointAt(0) ?? 0).toString(16).toUpperCase().padStart(4, '0')}]`)
    .join('');
}

/** Controls, and the marks that would turn the text around them: shown, never obeyed. */
const unseen = /^[\p{Cc}\p{Cs}\p{Co}\u200B\u200E\u200F\u202A-\u202E\u2060-\u2069\uFEFF]$/u;

type Placed = { readonly text: string; readonly face: Face };

function placed(grapheme: string, before: Face | undefined): readonly Placed[] {
  const composed = grapheme.normalize('NFC');
  const plain = (text: string) => [...text].map((character) => ({ text: character, face: houseFace }));
  if (composed === '\n') return plain(composed);
  if (unseen.test(composed)) return plain(byNumber(composed));
  // Blanks and signs stay with what stands before them: fewer pieces, and words stay whole.
  if (before && !/[\p{L}\p{N}]/u.test(composed) && coversAll(before, composed))
    return [{ text: composed, face: before }];
  const face = faceFor(composed);
  if (face) return [{ text: composed, face }];
  if ([...composed].length === 1) return plain(byNumber(composed));
  // A mark that no font has on that letter stands behind it.
  return [...composed].flatMap((character) => placed(character, undefined));
}

/** A word wider than this, in parts of the letters' size, could be wider than its column. */
const widestWhole = 11;
/** Letters of these scripts change with their neighbours: they are not drawn one by one. */
const joined =
  /[\p{Script=Arabic}\p{Script=Thai}\p{Script=Devanagari}\p{Script=Syriac}\p{M}\u{10000}-\u{10FFFF}]/u;
/** Drawn as nothing, and a line may end there. */
const mayBreak: Placed = {
  text: '\u200B',
  face: faces.find((face) => face.covers(0x200b)) ?? houseFace,
};

type Sign = Placed & { readonly breaks?: true };

const widthOf = (word: readonly Placed[]) =>
  word.reduce(
    (sum, { text, face }) =>
      sum + [...text].reduce((wide, one) => wide + face.advance(one.codePointAt(0) ?? 0), 0),
    0,
  );

/** Words that are too long for a column get places where they may be broken. */
function withBreaks(signs: readonly Placed[]): readonly Sign[] {
  const result: Sign[] = [];
  let word: Placed[] = [];
  const close = () => {
    const long = widthOf(word) > widestWhole;
    if (long && word.some(({ text }) => joined.test(text)))
      for (const [index, sign] of word.entries())
        result.push(...(index % 6 === 5 ? [sign, mayBreak] : [sign]));
    else result.push(...word.map((sign): Sign => (long ? { ...sign, breaks: true } : sign)));
    word = [];
  };
  for (const sign of signs) {
    if (/^\s/.test(sign.text)) {
      close();
      result.push(sign);
    } else word.push(sign);
  }
  close();
  return result;
}

/** The text with every sign in a font that has it, cut where font or direction change. */
export function piecesOf(text: string): readonly Piece[] {
  const found: Placed[] = [];
  for (const { segment } of graphemes.segment(text.replaceAll('\r\n', '\n')))
    found.push(...placed(segment, found.at(-1)?.face));
  const signs = withBreaks(found);
  const whole = signs.map((sign) => sign.text).join('');
  const { levels } = bidi.getEmbeddingLevels(whole, 'ltr');
  const pieces: { text: string; font: string; level: number; breaks: boolean; alone: boolean }[] = [];
  let at = 0;
  for (const { text: sign, face, breaks = false } of signs) {
    const level = levels[at] ?? 0;
    at += sign.length;
    const last = pieces.at(-1);
    // Letters are turned round by the font, in one piece; what stands between them keeps its own shape.
    const alone = level > 0 && !/^\p{L}/u.test(sign);
    if (
      last &&
      last.font === face.name &&
      last.level === level &&
      last.breaks === breaks &&
      !alone &&
      !last.alone
    )
      last.text += sign;
    else pieces.push({ text: sign, font: face.name, level, breaks, alone });
  }
  return pieces.map(({ text: shown, font, breaks }) => ({
    text: shown,
    font,
    ...(breaks ? { wordBreak: 'break-all' as const } : {}),
  }));
}
