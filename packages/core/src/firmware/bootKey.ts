import type { Catalogue, Model } from '../catalogue/catalogue';

/** Which key to press, and how sure that is. */
export type BootKeys = {
  /** The key of the boot menu, or those to try in their order. */
  readonly bootMenu: string;
  /** The key of the firmware set-up, or those to try in their order. */
  readonly setup: string;
  /** Where each is known from, as half a sentence. */
  readonly bootMenuSource: string;
  readonly setupSource: string;
};

/** What most makers use; in the order in which they are tried. */
const usual = { bootMenu: ['F12', 'F11', 'F9', 'Esc'], setup: ['F2', 'Delete', 'F10', 'Esc'] } as const;

type KeyField = 'bootMenuKey' | 'setupKey';

/** The keys of a maker's models, those of most models first. */
function keysOfMaker(models: readonly Model[], field: KeyField): readonly string[] {
  const counts = new Map<string, number>();
  for (const model of models) {
    const key = model[field];
    if (key !== null) counts.set(key, (counts.get(key) ?? 0) + 1);
  }
  return [...counts].toSorted(([, a], [, b]) => b - a).map(([key]) => key);
}

const inOrder = (keys: readonly string[]) =>
  keys.length < 2 ? (keys[0] ?? '') : `${keys.slice(0, -1).join(', ')} or ${keys.at(-1) ?? ''}`;

/**
 * The keys of a device: its model's own, else those of the maker's other models, else the usual ones; boot menu and
 * set-up each by themselves.
 * @param maker as the survey has it; capitals do not matter
 */
export function bootKeys(
  model: Model | undefined,
  maker: string | undefined,
  { models }: Pick<Catalogue, 'models'>,
): BootKeys {
  const others = models.filter((one) => one.maker.toLowerCase() === maker?.toLowerCase());
  const found = (field: KeyField, tried: readonly string[]) => {
    const own = model?.[field] ?? null;
    if (own !== null) return { keys: own, from: 'own' as const };
    const theirs = keysOfMaker(others, field);
    return theirs.length > 0
      ? { keys: inOrder(theirs), from: 'maker' as const }
      : { keys: inOrder(tried), from: 'usual' as const };
  };
  const bootMenu = found('bootMenuKey', usual.bootMenu);
  const setup = found('setupKey', usual.setup);
  const words = {
    own: 'from the model table',
    maker: `as on other models of ${others[0]?.maker ?? ''}`,
    usual: 'the usual ones: watch the first screen',
  } as const;
  return {
    bootMenu: bootMenu.keys,
    setup: setup.keys,
    bootMenuSource: words[bootMenu.from],
    setupSource: words[setup.from],
  };
}
