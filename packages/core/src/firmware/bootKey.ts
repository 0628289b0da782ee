import type { Model } from '../catalogue/catalogue';

/** The keys of a model, from the model table; unknown where it has none. */
export function bootKeys(model: Model | undefined): {
  readonly bootMenu: string;
  readonly setup: string;
  readonly source: string;
} {
  return {
    bootMenu: model?.bootMenuKey ?? 'unknown',
    setup: model?.setupKey ?? 'unknown',
    source: model?.bootMenuKey
      ? 'from the model table'
      : 'not in the model table: watch the first screen, or try Esc, F9, F11, F12',
  };
}
