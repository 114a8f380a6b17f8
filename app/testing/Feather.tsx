/** Icons draw with a font that Metro bundles; in unit tests there is no Metro. */
export default (): null => null;
