import { Modal } from '@mantine/core'
import { useEffect, useState } from 'react'
import { reader } from './background/workers.ts'
import type { Desk } from './desk/desk.ts'
import { freeFile } from './desk/files.ts'
import type { Files } from './desk/history.ts'
import { Welcome } from './Welcome.tsx'

interface OpeningProps {
  readonly desk: Desk
  readonly files: Files
  readonly onTrouble: (why: string | null) => void
  /** Files have come to lie on the desk. */
  readonly onDone: () => void
}

/** What one may begin with: files of one's own, samples, or a level with one thing of a type. */
export function Opening({ desk, files, onTrouble, onDone }: OpeningProps) {
  const [types, setTypes] = useState<readonly string[]>([])
  useEffect(() => {
    void reader.types({}, null).then((all) => {
      setTypes(all.map(({ name }) => name).filter((name) => name !== 'lock'))
    })
  }, [])
  const onFiles = (added: Files, says: string): void => {
    onDone()
    onTrouble(null)
    desk.add(added, says)
  }
  const onStart = (type: string): void => {
    void import('zintel/yaml').then(({ starterFiles }) => {
      const wanted = freeFile(files, `my-${type}.level.yaml`).replace('.level.yaml', '')
      const all = starterFiles(wanted, type)
      onFiles(
        Object.fromEntries(Object.entries(all).filter(([name]) => name.endsWith('.yaml'))),
        `begin with a ${type}`,
      )
    })
  }
  return <Welcome onFiles={onFiles} onTrouble={onTrouble} onStart={onStart} types={types} />
}

/** The same over the desk, while something else lies on it. */
export function OpeningModal({ isOpen, ...opening }: OpeningProps & { readonly isOpen: boolean }) {
  return (
    <Modal
      opened={isOpen}
      onClose={opening.onDone}
      size="xl"
      title="Open, or begin another"
      closeButtonProps={{ 'aria-label': 'Close' }}
    >
      <Opening {...opening} />
    </Modal>
  )
}
