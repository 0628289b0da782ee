import { z } from 'zod';

/** RFC 9457 problem details, with every problem found and its place. */
export const ProblemDetailsSchema = z.object({
  type: z.string(),
  title: z.string(),
  status: z.int(),
  detail: z.string(),
  instance: z.string(),
  problems: z.array(z.object({ code: z.string(), path: z.string(), sentence: z.string() })),
});

export type ProblemDetails = z.infer<typeof ProblemDetailsSchema>;
