import { fleetApi } from './api/fleet';
import { houseApi } from './api/house';
import { movesApi } from './api/moves';
import { peopleApi } from './api/people';

/** The whole API. A route that is not here does not exist. */
export const api = { ...peopleApi, ...houseApi, ...fleetApi, ...movesApi } as const;

export type ApiName = keyof typeof api;
