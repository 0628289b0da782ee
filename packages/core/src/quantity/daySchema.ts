import { z } from 'zod';

const firstYear = 1900;
const lastYear = 2999;

/** A calendar day as an ISO date, of a year that every calendar prints: `0000-01-01` and `9999-12-31` are none. */
export const DaySchema = z.iso
  .date()
  .refine(
    (day) => Number(day.slice(0, 4)) >= firstYear && Number(day.slice(0, 4)) <= lastYear,
    `a date is between the years ${firstYear} and ${lastYear}`,
  );

/** An instant in UTC, of the same years. */
export const InstantSchema = z.iso
  .datetime()
  .refine(
    (instant) => Number(instant.slice(0, 4)) >= firstYear && Number(instant.slice(0, 4)) <= lastYear,
    `an instant is between the years ${firstYear} and ${lastYear}`,
  );
