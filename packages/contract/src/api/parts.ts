import { surveyLimitBytes } from '@ulvane/core';
import { z } from 'zod';

export const nothing = z.object({});
export const done = z.object({ done: z.literal(true) });
// A character of UTF-8 has up to four bytes; core measures the text itself.
export const surveyText = z.string().max(surveyLimitBytes * 2);
