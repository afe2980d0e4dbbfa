import { Button, Select } from '@mantine/core'
import { useRef, useState } from 'react'
import { samples, singles, textsOf } from './desk/samples.ts'
import { takeFiles } from './desk/taking.ts'
import type { Files } from './desk/history.ts'

interface WelcomeProps {
  readonly onFiles: (files: Files, says: string) => void
  readonly onTrouble: (message: string) => void
  readonly onStart: (type: string) => void
  readonly types: readonly string[]
}

/** The empty desk: what one can begin with. */
export function Welcome({ onFiles, onTrouble, onStart, types }: WelcomeProps) {
  const files = useRef<HTMLInputElement>(null)
  const folder = useRef<HTMLInputElement>(null)
  const [type, setType] = useState<string | null>('door')
  const take = (list: FileList | null): void => {
    const all = [...(list ?? [])].map((file) => ({ name: file.webkitRelativePath || file.name, file }))
    void takeFiles(all).then(({ files: taken, refused }) => {
      if (refused.length > 0) onTrouble(refused.join(' '))
      else if (Object.keys(taken).length === 0) onTrouble('There is no YAML or JSON file in it.')
      if (Object.keys(taken).length > 0) onFiles(taken, 'open files')
    })
  }
  const begin = (names: readonly string[], title: string): void => {
    textsOf(names).then(
      (texts) => {
        onFiles(texts, `open ${title}`)
      },
      () => {
        onTrouble('The sample could not be loaded.')
      },
    )
  }
  return (
    <main className="welcome">
      <div className="welcome-sheet">
        <h2>What shall lie on the desk?</h2>
        <div className="columns">
          <section>
            <h3>Begin with a sample</h3>
            {samples.map(({ title, about, files: names }) => (
              <button
                key={title}
                type="button"
                className="sample"
                onClick={() => {
                  begin(names, title)
                }}
              >
                <b>{title}</b>
                <span>{about}</span>
              </button>
            ))}
            <Select
              size="xs"
              label="Or a small level that shows one thing"
              placeholder="opening, perceiving, …"
              searchable
              data={singles.map((name) => ({ value: name, label: name.replace('.level.yaml', '') }))}
              onChange={(name) => {
                if (name !== null) begin([name], name)
              }}
            />
          </section>
          <section>
            <h3>Your own</h3>
            <p>Drag files or a folder in here, or choose them. They stay in this browser.</p>
            <div className="row">
              <Button size="sm" onClick={() => files.current?.click()}>
                Choose files
              </Button>
              <Button size="sm" variant="default" onClick={() => folder.current?.click()}>
                Choose a folder
              </Button>
            </div>
            <input
              ref={files}
              type="file"
              multiple
              hidden
              accept=".yaml,.yml,.json"
              aria-label="Files"
              data-testid="choose-files"
              onChange={(event) => {
                take(event.currentTarget.files)
              }}
            />
            <input
              ref={folder}
              type="file"
              hidden
              aria-label="A folder"
              {...{ webkitdirectory: '' }}
              onChange={(event) => {
                take(event.currentTarget.files)
              }}
            />
            <h3>Something new</h3>
            <div className="row">
              <Select
                size="sm"
                aria-label="A type to begin with"
                data={[...types]}
                value={type}
                allowDeselect={false}
                onChange={setType}
              />
              <Button
                size="sm"
                variant="default"
                disabled={type === null}
                onClick={() => {
                  if (type !== null) onStart(type)
                }}
              >
                Begin with it
              </Button>
            </div>
            <p className="hint">Two rooms, a player, one thing of that type, a goal and two walkthroughs.</p>
          </section>
        </div>
      </div>
    </main>
  )
}
