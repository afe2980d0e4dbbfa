import draft from '../../levels/tide-mill-draft.level.yaml?raw'
import clean from '../../levels/tide-mill.level.yaml?raw'

/** The levels that can be tried out, by the name of their file. */
export const levels: Readonly<Record<string, string>> = {
  'tide-mill.level.yaml': clean,
  'tide-mill-draft.level.yaml': draft,
}
