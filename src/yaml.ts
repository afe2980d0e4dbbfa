/** Levels, walkthroughs and projects from text: YAML 1.2, of which JSON is a part. */
export { readLevel, readLevelValue } from './interactables/index.ts'
export { readWalkthrough } from './library/index.ts'
export { readProject } from './play/index.ts'
