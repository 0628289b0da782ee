import { describe, expect, it } from 'vitest';
import type { FieldSpec } from '../src/catalogue/fieldSpec';
import { rowInWords } from '../src/catalogue/fieldValue';

const fields: readonly FieldSpec[] = [
  { kind: 'choice', key: 'kind', label: 'It asks for', options: [{ value: 'disk', label: 'which disk' }] },
  { kind: 'text', key: 'name', label: 'Name on the page' },
  { kind: 'flag', key: 'needsNetwork', label: 'Needs the network' },
  { kind: 'size', family: 'binary', key: 'sizeBytes', label: 'Size' },
  {
    kind: 'rows',
    key: 'choices',
    label: 'Choices',
    fields: [{ kind: 'text', key: 'label', label: 'Label' }],
  },
];

describe('a row of a list in a line', () => {
  it('says its values as they are read, and leaves out what is nothing', () => {
    const row = { kind: 'disk', name: 'Where?', needsNetwork: true, sizeBytes: 4 * 1024 ** 3, choices: [] };
    expect(rowInWords(fields, row)).toBe('which disk · Where? · needs the network · 4 GiB');
    expect(
      rowInWords(fields, { ...row, needsNetwork: false, choices: [{ label: 'A' }, { label: 'B' }] }),
    ).toBe('which disk · Where? · 4 GiB · A, B');
  });

  it('says of a new one that it is not filled in', () => {
    expect(rowInWords(fields, { kind: '', name: '', needsNetwork: false, choices: [] })).toBe(
      'not filled in yet',
    );
  });
});
