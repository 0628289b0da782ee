import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { published, schemaText } from '../formats';

describe('the published formats', () => {
  it.each(Object.entries(published))(
    '%s: the JSON Schema in docs is the one that the code parses with',
    (name, entry) => {
      expect(readFileSync(`docs/formats/${name}.schema.json`, 'utf8')).toBe(schemaText(entry));
    },
  );
});
