import { drive, quietly } from '../explore/index.ts'
import type { Expanded } from '../interactables/index.ts'
import { type Stage, stageInSlices } from '../play/index.ts'
import { ProgressLine } from './progress.ts'
import type { World } from './world.ts'

/** Lays a level out, showing on standard error that it goes on; null where the person at the keyboard interrupts. */
export async function layOut(expanded: Expanded, world: World): Promise<Stage | null> {
  const line = new ProgressLine(world, expanded.level.title)
  const telling = () => ({ doing: 'laying out', situations: 0, budget: 0 }) as const
  const driven = await drive(quietly(stageInSlices(expanded), telling), {
    signal: world.signal,
    onProgress: (progress) => {
      line.show(progress)
    },
    now: () => world.now(),
    pause: () => world.pause(),
  })
  line.end()
  return driven.done ? driven.value : null
}
