import { v5 as uuidOf } from 'uuid';

/** Id of the line with which a run ends by itself: the same, whoever makes it. */
export const plannedEndId = (runId: string): string => uuidOf('planned-end', runId);
