import { availableParallelism } from 'node:os';

/** Rooms whose tests need neither a database nor a build. */
export const UNIT_ROOMS = ['core', 'contract', 'rig', 'cli', 'app'];
/** Rooms whose tests start the built server, or a database. */
export const SERVER_ROOMS = ['server', 'tools'];
/** Both cores work: tests wait for much. */
export const WORKERS = Math.max(2, availableParallelism());
