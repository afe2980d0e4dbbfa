import { Button, Menu, Select } from '@mantine/core'
import type { Spot } from './view.ts'

interface AddingProps {
  readonly level: {
    readonly types: readonly string[]
    readonly doorways: readonly string[]
    readonly shapes: readonly { readonly kind: string }[]
  }
  readonly snap: number
  readonly onSnap: (snap: number) => void
  readonly onAdd: (type: string, place: { at: Spot } | { in: string }) => void
}

/** Adding a thing, and the grid that dragging keeps to. */
export function Adding({ level, snap, onSnap, onAdd }: AddingProps) {
  const room = level.shapes.find((one): one is { kind: 'room'; outline: readonly Spot[] } => one.kind === 'room')
  const middle = room?.outline.reduce<Spot>(
    ([x, y], [east, north]) => [x + east / room.outline.length, y + north / room.outline.length],
    [0, 0],
  ) ?? [1, 1]
  return (
    <div className="adding">
      <Menu position="bottom-start" shadow="sm">
        <Menu.Target>
          <Button size="compact-sm" variant="default">
            + Add ▾
          </Button>
        </Menu.Target>
        <Menu.Dropdown mah={420} style={{ overflowY: 'auto' }}>
          <Menu.Label>In the middle of the first room: drag it from there</Menu.Label>
          {level.types
            .filter((type) => type !== 'door')
            .map((type) => (
              <Menu.Item
                key={type}
                onClick={() => {
                  onAdd(type, { at: middle })
                }}
              >
                {type}
              </Menu.Item>
            ))}
          <Menu.Label>A door, in a doorway</Menu.Label>
          {level.doorways.map((doorway) => (
            <Menu.Item
              key={doorway}
              onClick={() => {
                onAdd('door', { in: doorway })
              }}
            >
              door in {doorway}
            </Menu.Item>
          ))}
        </Menu.Dropdown>
      </Menu>
      <Select
        size="xs"
        w={120}
        aria-label="The grid that dragging keeps to"
        data={[
          { value: '0.01', label: 'grid 1 cm' },
          { value: '0.05', label: 'grid 5 cm' },
          { value: '0.1', label: 'grid 10 cm' },
          { value: '0.25', label: 'grid 25 cm' },
          { value: '0.5', label: 'grid 50 cm' },
        ]}
        value={String(snap)}
        allowDeselect={false}
        onChange={(value) => {
          onSnap(Number(value))
        }}
      />
    </div>
  )
}
