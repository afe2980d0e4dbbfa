/** The JSON Schemas (2020-12) that are written when the package is built. */
export { levelJsonSchema } from './interactables/index.ts'
export { commonJsonSchema } from './model/index.ts'
export { projectJsonSchema, verdictJsonSchema, walkthroughJsonSchema } from './play/index.ts'
export { reportJsonSchema } from './findings/index.ts'
