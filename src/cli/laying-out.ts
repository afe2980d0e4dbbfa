import { runInSlices, type Progress, quietly } from '../explore/index.ts'
import type { Expanded } from '../interactables/index.ts'
import { type Stage, stageInSlices } from '../play/index.ts'
import { ProgressLine } from './progress.ts'
import type { World } from './world.ts'

/** Lays a level out, showing on standard error that it goes on; null where the person at the keyboard interrupts. */
export async function layOut(expanded: Expanded, world: World): Promise<Stage | null> {
  const telling = () => ({ doing: 'laying out', situations: 0, budget: 0 }) as const
  return await driven(quietly(stageInSlices(expanded), telling), expanded.level.title, world)
}

/** Does work on a level that goes on in slices, and shows how far it has come; null where it is interrupted. */
export async function driven<T>(work: Generator<Progress, T>, title: string, world: World): Promise<T | null> {
  const line = new ProgressLine(world, title)
  const ended = await runInSlices(work, {
    signal: world.signal,
    onProgress: (progress) => {
      line.show(progress)
    },
    now: () => world.now(),
    pause: () => world.pause(),
  })
  line.end()
  return ended.done ? ended.value : null
}
