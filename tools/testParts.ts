import { availableParallelism } from 'node:os';

/** Rooms whose tests need neither a database nor a build. */
export const UNIT_ROOMS = ['core', 'contract', 'rig', 'cli', 'app'];
/** Rooms whose tests start the built server, or a database. */
export const SERVER_ROOMS = ['server', 'tools'];
/** All rooms of the house. */
export const ROOMS = [...UNIT_ROOMS, ...SERVER_ROOMS, 'e2e'];
const CORES = Math.max(2, availableParallelism());
/** Unit tests compute: a worker for each core. */
export const UNIT_WORKERS = CORES;
/** Tests of the server, and journeys, wait for much: one worker more keeps the cores busy. */
export const WAITING_WORKERS = CORES + 1;
/** What all tests may take, s, when the packages are there, on two cores that nobody else uses: past it there is a warning, since machines are shared. */
export const BUDGET_S = 12 * 60;
