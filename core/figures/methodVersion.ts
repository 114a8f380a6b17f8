/**
 * Version of the method that docs/method.md describes. It rises whenever a
 * definition changes, so that stored figures of an older version are computed
 * anew and two runs are never compared across versions unnoticed.
 */
export const METHOD_VERSION = 11;
