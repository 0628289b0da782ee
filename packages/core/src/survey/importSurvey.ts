import { z } from 'zod';
import { fail, succeed, type Outcome, type Problem } from '../outcome/outcome';
import { parseWith } from '../outcome/parseWith';
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
  const json = readJson(text);
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

function readJson(text: string): Outcome<unknown> {
  try {
    return succeed(JSON.parse(text));
  } catch {
    const at = brokenAt(text);
    const before = text.slice(0, at).split('\n');
    if (at >= text.trimEnd().length)
      return fail(
        'survey-truncated',
        `line ${before.length}`,
        `The file breaks off in line ${before.length}, after “${(before.at(-1) ?? '').slice(-40)}”. Copy it again, to its last brace.`,
      );
    const place = `line ${before.length}, column ${(before.at(-1)?.length ?? 0) + 1}`;
    return fail(
      'survey-malformed',
      place,
      `The file is not well-formed JSON at ${place}. Save what the collector prints without editing it.`,
    );
  }
}

/** Whether more text could mend the error: what there is is the beginning of something well-formed. */
function wantsMore(message: string, length: number): boolean {
  const position = /position (\d+)/.exec(message)?.[1];
  return (
    /end of JSON input|Unterminated|No number after minus|Exponent part/.test(message) ||
    (position !== undefined && Number(position) >= length)
  );
}

/**
 * Where JSON stops being well-formed: the number of characters before the first wrong one, or the
 * text's length when it only breaks off. Found by halving, since engines do not all tell the place.
 */
function brokenAt(text: string): number {
  const isBroken = (length: number) => {
    try {
      JSON.parse(text.slice(0, length));
      return false;
    } catch (error) {
      return !(error instanceof SyntaxError && wantsMore(error.message, length));
    }
  };
  if (!isBroken(text.length)) return text.length;
  let whole = 0;
  let broken = text.length;
  while (broken - whole > 1) {
    const middle = (whole + broken) >> 1;
    if (isBroken(middle)) broken = middle;
    else whole = middle;
  }
  return whole;
}

/** Facts of a survey that cannot hold together: named, never silently picked between. */
function contradictionsIn(survey: Survey): readonly Problem[] {
  return contradictionsOf(factsFromSurvey(survey, 'collector')).map(({ keys, place, sentence }) => ({
    code: 'contradiction',
    path: keys[0] === 'disks' ? `/disks${place}` : '/firmware',
    sentence,
  }));
}
