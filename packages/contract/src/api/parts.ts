import { DaySchema } from '@ulvane/core/quantity';
import { moveLimitBytes } from '@ulvane/core/record';
import { surveyLimitBytes } from '@ulvane/core/survey';
import { z } from 'zod';

export const nothing = z.object({});
/** A move with all that belongs to it, lists of names, capsules. */
export const longDocument = moveLimitBytes;
/** A survey as text inside JSON, where every character may be escaped. */
export const oneSurvey = 2.5 * surveyLimitBytes;
export const day = DaySchema;
/** Numbers of a database's `int` column. */
export const int4 = z.int().min(0).max(2_147_483_647);
export const done = z.object({ done: z.literal(true) });
// A character of UTF-8 has up to four bytes; core measures the text itself.
export const surveyText = z.string().max(surveyLimitBytes * 2);
