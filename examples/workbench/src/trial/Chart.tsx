import 'uplot/dist/uPlot.min.css'
import { memo, useEffect, useMemo, useRef } from 'react'
import uPlot from 'uplot'
import type { LogEntry } from 'zintel'

/** Kinds of what happened, a row for each, from the top; each is told apart by its row, and by its colour. */
const rows = [
  { name: 'presses', colour: '--sea', is: (entry: LogEntry) => entry.what === 'press' || entry.what === 'dials' },
  {
    name: 'changes of state',
    colour: '--rust',
    is: (entry: LogEntry) => entry.what === 'transition' && entry.from !== entry.to,
  },
  { name: 'feedback', colour: '--ochre', is: (entry: LogEntry) => entry.what === 'feedback' },
] as const

interface ChartProps {
  readonly log: readonly LogEntry[]
  /** How many entries the log has: it grows, and is the same list. */
  readonly count: number
  /** Milliseconds from one end to the other. */
  readonly length: number
}

/** What happened over time: presses, changes of state, and what was told. */
const Chart = memo(function Chart({ log, count, length }: ChartProps) {
  const holder = useRef<HTMLDivElement>(null)
  const plot = useRef<uPlot | null>(null)
  const data = useMemo(() => dataOf(log.slice(0, count)), [log, count])
  const first = useRef(data)
  useEffect(() => {
    const element = holder.current
    if (!element) return
    const colour = (name: string): string => getComputedStyle(element).getPropertyValue(name)
    const made = new uPlot(
      {
        width: element.clientWidth,
        height: 40,
        padding: [2, 8, 2, 8],
        legend: { show: false },
        cursor: { show: false },
        axes: [{ show: false }, { show: false }],
        scales: { x: { time: false, range: [0, length / 1000] }, y: { range: [0.4, rows.length + 0.6] } },
        series: [
          {},
          ...rows.map(({ name, colour: of }) => ({
            label: name,
            stroke: () => colour(of),
            fill: () => colour(of),
            paths: () => null,
            points: { show: true, size: 7, fill: () => colour(of), stroke: () => colour(of) },
          })),
        ],
      },
      first.current,
      element,
    )
    plot.current = made
    const observer = new ResizeObserver(() => {
      made.setSize({ width: element.clientWidth, height: 40 })
    })
    observer.observe(element)
    return () => {
      observer.disconnect()
      made.destroy()
      plot.current = null
    }
  }, [length])
  useEffect(() => {
    first.current = data
    plot.current?.setData(data)
  }, [data])
  return <div ref={holder} className="marks" role="img" aria-label={chartText(data)} />
})

export default Chart

/** The chart in words. */
function chartText(data: uPlot.AlignedData): string {
  const counts = rows.map(({ name }, row) => {
    const all = data[row + 1] as (number | null)[]
    return `${name} ${String(all.filter((one) => one !== null).length)}`
  })
  return `Over time: ${counts.join(', ')}`
}

/** Seconds at which anything happened, and for each row where in it that is; null where it is of another row. */
function dataOf(log: readonly LogEntry[]): uPlot.AlignedData {
  const entries = log.filter((entry) => rows.some(({ is }) => is(entry)))
  const of = (row: (typeof rows)[number], height: number): (number | null)[] =>
    entries.map((entry) => (row.is(entry) ? height : null))
  return [entries.map(({ at }) => at / 1000), ...rows.map((row, i) => of(row, rows.length - i))]
}
