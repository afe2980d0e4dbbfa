import { useEffect, useRef } from 'react'
import type { Spot } from './edits.ts'
import type { Files } from './history.ts'
import { droppedFiles } from './saving.ts'
import { takeFiles } from './taking.ts'

interface Shortcuts {
  readonly isTrying: boolean
  readonly undo: () => void
  readonly redo: () => void
  readonly remove: () => void
  readonly duplicate: () => void
  readonly nudge: (by: Spot) => void
  readonly escape: () => void
}

const nudges: Readonly<Record<string, Spot>> = {
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
}

/** Keys for everything on the desk; those of text fields stay their own. */
export function useShortcuts(all: Shortcuts): void {
  const latest = useRef(all)
  latest.current = all
  useEffect(() => {
    const down = (event: KeyboardEvent): void => {
      const target = event.target as HTMLElement
      const does = latest.current
      if (target.closest('input, textarea, select, .cm-editor, [role=dialog], [role=menu], [role=tab]')) return
      const isCommand = event.ctrlKey || event.metaKey
      if (isCommand && event.key.toLowerCase() === 'z') (event.shiftKey ? does.redo : does.undo)()
      else if (isCommand && event.key.toLowerCase() === 'y') does.redo()
      else if (isCommand && event.key.toLowerCase() === 'd' && !does.isTrying) does.duplicate()
      else if (event.key === 'Escape') {
        does.escape()
        return
      } else if (does.isTrying || isCommand) return
      else if (event.key === 'Delete' || event.key === 'Backspace') does.remove()
      else if (nudges[event.key] && target.closest('.sheet')) does.nudge(nudges[event.key]!)
      else return
      event.preventDefault()
    }
    window.addEventListener('keydown', down)
    return () => {
      window.removeEventListener('keydown', down)
    }
  }, [])
}

/** Files and folders that are dragged in. */
export function useDrop(onFiles: (files: Files, why: string | null) => void) {
  return {
    onDragOver: (event: React.DragEvent): void => {
      if (event.dataTransfer.types.includes('Files')) event.preventDefault()
    },
    onDrop: (event: React.DragEvent): void => {
      if (!event.dataTransfer.types.includes('Files')) return
      event.preventDefault()
      void droppedFiles(event.dataTransfer)
        .then(takeFiles)
        .then(({ files, refused }) => {
          const isEmpty = Object.keys(files).length === 0 && refused.length === 0
          onFiles(
            files,
            isEmpty ? 'There is no YAML or JSON file in it.' : refused.length > 0 ? refused.join(' ') : null,
          )
        })
    },
  }
}
