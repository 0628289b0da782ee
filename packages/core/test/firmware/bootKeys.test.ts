import { describe, expect, it } from 'vitest';
import { bootKeys } from '../../src/firmware';
import type { Model } from '../../src/catalogue';
import { catalogue } from '../fixtures/shop';

const modelOf = (id: string): Model => {
  const model = catalogue.models.find((one) => one.id === id);
  if (!model) throw new Error(`no model ${id}`);
  return model;
};
const fenwright = modelOf('kestle-fenwright-14');
const kiosk = modelOf('kestle-wicket-5');

describe('the keys of a device', () => {
  it('are those of its model', () => {
    expect(bootKeys(fenwright, 'Kestle', catalogue)).toEqual({
      bootMenu: 'F7',
      setup: 'F2',
      bootMenuSource: 'from the model table',
      setupSource: 'from the model table',
    });
  });

  it('are those of the maker’s other models where the model has none, the commonest first', () => {
    const own = (bootMenuKey: string | null) => ({ ...fenwright, id: `x-${bootMenuKey ?? ''}`, bootMenuKey });
    const models = [own('F9'), own('F4'), own('F9'), own(null)];
    expect(bootKeys({ ...kiosk, bootMenuKey: null }, 'KESTLE', { models })).toMatchObject({
      bootMenu: 'F9 or F4',
      setup: 'Delete',
      bootMenuSource: 'as on other models of Kestle',
      setupSource: 'from the model table',
    });
  });

  it('are the usual ones where nobody knows the maker', () => {
    for (const maker of [undefined, 'Nobody'])
      expect(bootKeys(undefined, maker, catalogue)).toMatchObject({
        bootMenu: 'F12, F11, F9 or Esc',
        setup: 'F2, Delete, F10 or Esc',
        bootMenuSource: 'the usual ones: watch the first screen',
        setupSource: 'the usual ones: watch the first screen',
      });
  });

  it('each come from where they are known', () => {
    // The kiosk has a key for its set-up and none for its boot menu.
    const keys = bootKeys(kiosk, 'Kestle', catalogue);
    expect(keys.setup).toBe('Delete');
    expect(keys.bootMenu).toBe('F7 or F8');
    expect([keys.bootMenuSource, keys.setupSource]).toEqual([
      'as on other models of Kestle',
      'from the model table',
    ]);
  });
});
