import { controllerOf } from '../http/controller';
import { DrivesService } from './drives.service';

export const DrivesController = controllerOf(
  { service: DrivesService },
  {
    drives: async (_input, _caller, { service }) => ({ drives: await service.list() }),

    putDrive: ({ params, body }, _caller, { service }) => service.put(params.id, body.version, body.drive),

    removeDrive: async ({ params, body }, _caller, { service }) => {
      await service.remove(params.id, body.version);
      return { drives: await service.list() };
    },
  },
);
