/** A level of rooms in rows and columns, joined by doors: each to the next of its row, and the first of each row. */
export function gridOfRooms(columns: number, rows: number): string {
  const at = (index: number, along = 0): string => String(Math.round((index * 4.3 + along) * 100) / 100)
  const lines = ['zintel: 1', 'title: Rooms in rows', 'rooms:']
  const gaps: string[] = []
  for (let row = 0; row < rows; row++) {
    for (let column = 0; column < columns; column++) {
      const [left, low, right, high] = [at(column), at(row), at(column, 4), at(row, 4)]
      const name = `room-${String(column)}-${String(row)}`
      lines.push(
        `  ${name}: { outline: [[${left}, ${low}], [${right}, ${low}], [${right}, ${high}], [${left}, ${high}]] }`,
      )
      const gap = (to: string, x: string, y: string): void => {
        gaps.push(`{ joins: [${name}, ${to}], at: [${x}, ${y}], width: 1.2, depth: 0.3 }`)
      }
      if (column + 1 < columns) gap(`room-${String(column + 1)}-${String(row)}`, at(column, 4.15), at(row, 2))
      if (column === 0 && row + 1 < rows) gap(`room-0-${String(row + 1)}`, at(0, 2), at(row, 4.15))
    }
  }
  lines.push('doorways:', ...gaps.map((gap, i) => `  gap-${String(i)}: ${gap}`))
  lines.push('interactables:', ...gaps.map((_, i) => `  door-${String(i)}: { type: door, in: gap-${String(i)} }`))
  lines.push('characters:', '  sam: { role: player, start: [1, 1], radius: 0.3, speed: 3, hand: 1.2, reach: 0.9 }')
  lines.push('goals:', '  open: { interactable: door-0, is: open }')
  return `${lines.join('\n')}\n`
}
