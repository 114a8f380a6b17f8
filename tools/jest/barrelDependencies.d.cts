/** As Jest asks for a file's dependencies. */
declare const dependencies: {
  getCacheKey: () => string;
  extract: (code: string, path: string, usual: (code: string) => Set<string>) => Set<string>;
};
export = dependencies;
