/** Levels, walkthroughs and projects from text: YAML 1.2, of which JSON is a part. */
export { readLevel, readLevelValue } from './interactables/index.ts'
export { readProject, readWalkthrough } from './play/index.ts'
