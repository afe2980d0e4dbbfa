/** Levels, walkthroughs and projects from text: YAML 1.2, of which JSON is a part. */
export { readLevel, readLevelValue } from './interactables/index.ts'
export type { Edit } from './model/index.ts'
export {
  changeText,
  duplicateInLevel,
  freeName,
  type LevelText,
  readWalkthrough,
  renameInLevel,
  renameArrival,
  renameInWalkthrough,
  starterFiles,
  starterTypes,
} from './library/index.ts'
export { readProject } from './play/index.ts'
