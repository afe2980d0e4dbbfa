import type * as Edits from '../desk/edits.ts'
import type { Files } from '../desk/history.ts'
import type { GripDrag } from './Grips.tsx'
import type { Spot } from './view.ts'

/** What a grip comes to that was dragged to a spot. */
export function gripped(module: typeof Edits, files: Files, file: string, drag: GripDrag, to: Spot): Edits.Edited {
  switch (drag.is) {
    case 'corner':
      return module.moveCorner(files, file, drag.path, drag.corner, to)
    case 'range':
      return module.give(
        files,
        file,
        `${drag.path}.range.radius`,
        module.rounded(Math.max(0.1, Math.hypot(to[0] - drag.middle[0], to[1] - drag.middle[1]))),
      )
    case 'zone':
      return module.give(
        files,
        file,
        `${drag.path}.zones.${drag.zone}.radius`,
        module.rounded(Math.max(0.1, Math.hypot(to[0] - drag.middle[0], to[1] - drag.middle[1]))),
      )
    case 'turn': {
      const angle = (Math.atan2(to[1] - drag.middle[1], to[0] - drag.middle[0]) * 180) / Math.PI
      return module.give(files, file, `${drag.path}.facing`, (Math.round(angle / 5) * 5 + 360) % 360)
    }
  }
}
