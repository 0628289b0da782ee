import { importSurvey, type Survey } from '@ulvane/core/survey';
import { ProblemError } from '../http/problem';

/** A survey file's text, or a refusal that names every problem and its place. */
export function readSurvey(text: string): Survey {
  const survey = importSurvey(text);
  if (!survey.ok) throw new ProblemError(survey.problems);
  return survey.value;
}
