/** The command was called in a way that makes no sense: exit status 2. */
export class UsageError extends Error {}

/** Input that is refused for a reason of its own: exit status 1. */
export class InputRefused extends Error {}
