import { controllerOf } from '../http/controller';
import { ShelfService } from './shelf.service';

export const ShelfController = controllerOf(
  { service: ShelfService },
  {
    shelf: (_input, _caller, { service }) => service.shelf(),

    putImage: ({ params, body }, _caller, { service }) => service.put(params.id, body.version, body.image),

    removeImage: async ({ params, body }, _caller, { service }) => {
      await service.remove(params.id, body.version);
      return service.shelf();
    },
  },
);
