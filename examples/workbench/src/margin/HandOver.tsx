import { Button } from '@mantine/core'
import type { FileReport } from 'zintel'
import type { Desk, DeskState } from '../desk/desk.ts'
import { unsaved } from '../desk/desk.ts'
import { shortName } from '../desk/files.ts'
import { pngOf, saveFile } from '../desk/saving.ts'
import { reader } from '../background/workers.ts'

interface HandOverProps {
  readonly desk: Desk
  readonly state: DeskState
  readonly file: string
  readonly report: FileReport | null
  readonly onTrouble: (message: string) => void
}

/** Everything that can be given to somebody else, as files. */
export function HandOver({ desk, state, file, report, onTrouble }: HandOverProps) {
  const stem = shortName(file).replace(/\.level\.(?:ya?ml|json)$/, '')
  const dirty = unsaved(state)
  const doing = (what: () => Promise<void>) => () => {
    what().catch((error: unknown) => {
      onTrouble(error instanceof Error ? error.message : String(error))
    })
  }
  const plan = (): Promise<string> => reader.plan(state.files, file)
  return (
    <section aria-label="Hand over" className="hand-over">
      <header className="pane-head">
        <h2>Hand over</h2>
      </header>
      <h3>Files</h3>
      <ul className="files">
        {Object.keys(state.files).map((name) => (
          <li key={name}>
            <span>
              {name}
              {dirty.includes(name) && <b className="dirty"> · not saved</b>}
            </span>
            <Button
              size="compact-xs"
              variant="default"
              onClick={doing(async () => {
                await saveFile(shortName(name), desk.text(name), 'application/yaml')
                desk.markSaved([name])
              })}
            >
              Save
            </Button>
          </li>
        ))}
      </ul>
      <h3>The report</h3>
      <p className="hint">
        One page that opens anywhere, without a network: the plan, what was found, and the steps that show it.
      </p>
      <div className="row">
        <Button
          size="compact-sm"
          disabled={!report}
          onClick={doing(async () => {
            if (report) await saveFile(`${stem}.report.html`, await reader.html(state.files, file, report), 'text/html')
          })}
        >
          Report (HTML)
        </Button>
        <Button
          size="compact-sm"
          variant="default"
          disabled={!report}
          onClick={doing(async () => {
            if (report) await saveFile(`${stem}.sarif`, await reader.sarif(report), 'application/json')
          })}
        >
          Findings (SARIF)
        </Button>
      </div>
      <h3>Pictures</h3>
      <div className="row">
        <Button
          size="compact-sm"
          variant="default"
          onClick={doing(async () => {
            await saveFile(`${stem}.svg`, await plan(), 'image/svg+xml')
          })}
        >
          Plan (SVG)
        </Button>
        <Button
          size="compact-sm"
          variant="default"
          onClick={doing(async () => {
            await saveFile(`${stem}.png`, await pngOf(await plan()), 'image/png')
          })}
        >
          Plan (PNG)
        </Button>
      </div>
    </section>
  )
}
