import { DriveSchema } from '@ulvane/core/backup';
import { z } from 'zod';
import { endpoint, everyone, writers } from '../endpoint';
import { DriveViewSchema } from '../fileShapes';
import { nothing } from './parts';

/** The inventory of backup drives and sticks. */
export const drivesApi = {
  drives: endpoint({
    method: 'GET',
    path: '/drives',
    summary: 'Backup drives and sticks, with what is on them',
    access: everyone,
    body: nothing,
    query: nothing,
    response: z.object({ drives: z.array(DriveViewSchema) }),
  }),
  putDrive: endpoint({
    method: 'PUT',
    path: '/drives/:id',
    summary: 'Add or change a drive of the inventory',
    access: writers,
    body: z.object({
      /** The version seen; 0 for a new one. */
      version: z.int().min(0),
      drive: DriveSchema.omit({ id: true }),
    }),
    query: nothing,
    response: DriveViewSchema,
  }),
  removeDrive: endpoint({
    method: 'POST',
    path: '/drives/:id/remove',
    summary: 'Remove a drive from the inventory',
    access: writers,
    body: z.object({ version: z.int().min(1) }),
    query: nothing,
    response: z.object({ drives: z.array(DriveViewSchema) }),
  }),
} as const;
