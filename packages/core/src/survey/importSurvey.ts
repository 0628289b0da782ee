import { z } from 'zod';
import { fail, type Outcome, type Problem } from '../outcome/outcome';
import { parseWith } from '../outcome/parseWith';
import { brokenSentence, readJson } from '../outcome/readJson';
import { printBytes } from '../quantity/bytes';
import { surveyFormatName, surveyFormatVersion, surveyLimitBytes, SurveySchema, type Survey } from './format';
import { contradictionsOf } from './contradictions';
import { factsFromSurvey } from './factsFromSurvey';

const HeadSchema = z.looseObject({ format: z.string(), version: z.int() });

/**
 * Reads a survey file's text. Refuses what is oversized, truncated, malformed, not a survey, or of
 * a newer version, and facts that contradict each other; each problem says where.
 * @param text the file as UTF-8 text
 */
export function importSurvey(text: string): Outcome<Survey> {
  if (text.length > surveyLimitBytes)
    return fail(
      'survey-too-large',
      '',
      `The file has ${printBytes(text.length, 'binary')}; a survey has at most ${printBytes(surveyLimitBytes, 'binary')}. Is it the right file?`,
    );
  if (text.trim() === '')
    return fail('survey-empty', '', 'The file is empty: run the collector again and save what it prints.');
  const json = readText(text);
  if (!json.ok) return json;
  const head = parseWith(HeadSchema, json.value);
  if (!head.ok || head.value.format !== surveyFormatName)
    return fail(
      'not-a-survey',
      '/format',
      `This is JSON, but not a survey: “format” should be “${surveyFormatName}”.`,
    );
  if (head.value.version > surveyFormatVersion)
    return fail(
      'survey-newer',
      '/version',
      `The survey has version ${head.value.version}; this Ulvane reads up to version ${surveyFormatVersion}. Update Ulvane, or take the collector from its Survey page.`,
    );
  const survey = parseWith(SurveySchema, json.value);
  if (!survey.ok) return survey;
  const contradictions = contradictionsIn(survey.value);
  return contradictions.length === 0 ? survey : { ok: false, problems: contradictions };
}

function readText(text: string): Outcome<unknown> {
  const read = readJson(text);
  if (read.ok) return read;
  const { breaksOff, line, column } = read.broken;
  return breaksOff
    ? fail('survey-truncated', `line ${line}`, brokenSentence('The file', read.broken))
    : fail(
        'survey-malformed',
        `line ${line}, column ${column}`,
        `The file is not well-formed JSON at line ${line}, column ${column}. Save what the collector prints without editing it.`,
      );
}

/** Facts of a survey that cannot hold together: named, never silently picked between. */
function contradictionsIn(survey: Survey): readonly Problem[] {
  return contradictionsOf(factsFromSurvey(survey, 'collector')).map(({ keys, place, sentence }) => ({
    code: 'contradiction',
    path: keys[0] === 'disks' ? `/disks${place}` : '/firmware',
    sentence,
  }));
}
