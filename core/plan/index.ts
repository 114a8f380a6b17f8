export * from './changes';
export * from './dayProblem';
export * from './habits';
export * from './planDay';
export * from './problem';
export * from './templates';
