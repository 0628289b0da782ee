import type { KeyInput, Page } from 'puppeteer-core';

/**
 * What a person's hands and head take, in seconds, after the keystroke-level model (Card, Moran and Newell, 1980): a
 * key of someone who types with some practice, the hand going to the keyboard once, and getting one's mind to what is
 * asked next. What the page takes is not in it: it answers while the next key is looked for.
 */
const keySeconds = 0.28;
const handSeconds = 0.4;
const thoughtSeconds = 1.35;

/** A keyboard that counts: what is pressed through it is really pressed, and its seconds are added up. */
export function handsOn(page: Page) {
  let keys = 0;
  let thoughts = 0;
  return {
    thinks: () => {
      thoughts += 1;
    },
    press: async (key: KeyInput) => {
      keys += 1;
      await page.keyboard.press(key);
    },
    types: async (text: string) => {
      keys += text.length;
      await page.keyboard.type(text);
    },
    /** Two keys at once count as two. */
    holds: async (held: KeyInput, key: KeyInput) => {
      keys += 2;
      await page.keyboard.down(held);
      await page.keyboard.press(key);
      await page.keyboard.up(held);
    },
    seconds: () => handSeconds + thoughts * thoughtSeconds + keys * keySeconds,
  };
}
