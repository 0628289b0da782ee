import { readFileSync } from 'node:fs';
import { resolveCatalogue, type Catalogue } from '@ulvane/core/catalogue';
import { decide, decisionInput } from '@ulvane/core/decide';
import { defaultHouseRules } from '@ulvane/core/rules';
import { factsFromSurvey, importSurvey, type Facts } from '@ulvane/core/survey';
import { DemoTablesSchema, pick, seededRandom, surveyOf } from '@ulvane/demo';

export const deviceCount = 10_000;
export const now = '2026-03-02T10:00:00.000Z';
export const today = now.slice(0, 10);
/** Without it most devices would be advised to stay, and nothing planned. */
export const wish = { purpose: 'support-ends', until: null } as const;

const read = (path: string): unknown => JSON.parse(readFileSync(path, 'utf8'));
export const tables = DemoTablesSchema.parse(read('data/demo/organisation.json'));

export function readCatalogue(): Catalogue {
  const resolved = resolveCatalogue(read('data/catalogue/catalogue.json'), today);
  if (!resolved.ok) throw new Error('the catalogue does not resolve');
  return resolved.value;
}

/** Surveys of ten thousand devices, the same in every run. */
export function surveyTexts(catalogue: Catalogue): readonly string[] {
  const random = seededRandom(7);
  return Array.from({ length: deviceCount }, () => {
    const group = pick(random, tables.groups);
    const model = catalogue.models.find(({ id }) => id === group.model);
    if (!model) throw new Error(`no model ${group.model}`);
    return JSON.stringify(surveyOf(random, tables, group, model, now));
  });
}

export function factsOf(text: string): Facts {
  const survey = importSurvey(text);
  if (!survey.ok) throw new Error(survey.problems[0]?.sentence);
  return factsFromSurvey(survey.value, 'collector');
}

/** Assessment and routes alone, as the background work of a fleet does them. @returns how many candidates there were */
export function decideAll(devices: readonly Facts[], catalogue: Catalogue): number {
  let candidates = 0;
  for (const facts of devices)
    candidates += decide(decisionInput({ facts, catalogue, houseRules: defaultHouseRules, today, wish }))
      .candidates.length;
  return candidates;
}
