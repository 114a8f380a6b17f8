import { availableParallelism } from 'node:os';

/** Rooms whose tests need neither a database nor a build. */
export const UNIT_ROOMS = ['core', 'contract', 'rig', 'cli', 'app'];
/** Rooms whose tests start the built server, or a database. */
export const SERVER_ROOMS = ['server', 'tools'];
/** All rooms of the house. */
export const ROOMS = [...UNIT_ROOMS, ...SERVER_ROOMS, 'e2e'];
/** Both cores work: tests wait for much. */
export const WORKERS = Math.max(2, availableParallelism());
