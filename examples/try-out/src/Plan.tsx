import { type MouseEvent, useMemo } from 'react'
import type { Play } from 'zintel'
import { drawPlan, planFrame } from 'zintel/draw'

/** The plan to scale, with what moves drawn over it. A click is a spot to walk to. */
export function Plan({ play, onWalk }: { play: Play; onWalk: (spot: readonly [number, number]) => void }) {
  const { stage } = play
  const frame = useMemo(() => planFrame(stage, 31), [stage])
  const still = useMemo(() => drawPlan(stage, { scale: 31, still: true }), [stage])
  const [person] = stage.expanded.characters
  const [x, y] = frame.toPlan(play.spotOf(0))
  const [target] = play.candidates(0)
  const click = (event: MouseEvent<HTMLDivElement>): void => {
    const box = event.currentTarget.getBoundingClientRect()
    const pixel = [
      ((event.clientX - box.left) / box.width) * frame.width,
      ((event.clientY - box.top) / box.height) * frame.height,
    ] as const
    onWalk(frame.toGround(pixel))
  }
  return (
    <div className="plan" data-testid="plan" onClick={click}>
      <div dangerouslySetInnerHTML={{ __html: still }} />
      <svg viewBox={`0 0 ${String(frame.width)} ${String(frame.height)}`} aria-hidden="true">
        {stage.expanded.interactables.map(({ index, name, states }) => {
          const figure = stage.space.layout.figures[index]
          if (!figure?.body) return null
          const state = states.find((one) => one.name === play.stateOf(index))
          const points = figure.body.map((p) => frame.toPlan(p).join(',')).join(' ')
          const open = play.poseOf(index)
          const look = state?.blocksWalk ? 'body shut' : 'body open'
          return <polygon key={name} points={points} className={look} style={{ fillOpacity: 0.95 - 0.7 * open }} />
        })}
        {target !== undefined && <Handle play={play} index={target} frame={frame} />}
        <circle className="reach" cx={x} cy={y} r={(person?.reach ?? 1) * frame.scale} />
        <circle className="person" cx={x} cy={y} r={((person?.girth ?? 0.5) / 2) * frame.scale} data-testid="person" />
      </svg>
    </div>
  )
}

function Handle({ play, index, frame }: { play: Play; index: number; frame: ReturnType<typeof planFrame> }) {
  const handle = play.stage.space.layout.figures[index]?.handle
  if (!handle) return null
  const [cx, cy] = frame.toPlan([handle[0], handle[1]])
  return <circle className="target" cx={cx} cy={cy} r={9} />
}
