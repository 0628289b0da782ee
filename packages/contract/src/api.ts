import { drivesApi } from './api/drives';
import { filesApi } from './api/files';
import { fleetApi } from './api/fleet';
import { houseApi } from './api/house';
import { movesApi } from './api/moves';
import { peopleApi } from './api/people';
import { recordApi } from './api/record';
import { secretsApi } from './api/secrets';
import { shelfApi } from './api/shelf';
import { troublesApi } from './api/troubles';

/** The whole API. A route that is not here does not exist. */
export const api = {
  ...peopleApi,
  ...houseApi,
  ...fleetApi,
  ...movesApi,
  ...filesApi,
  ...drivesApi,
  ...secretsApi,
  ...shelfApi,
  ...troublesApi,
  ...recordApi,
} as const;
