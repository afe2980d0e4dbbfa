import { clockText, entryText, type LevelPlay, type LogEntry, notAskedText } from 'zintel'

/** What is carried, how everything stands, and what has happened. */
export function Side({ play, who, changed }: { play: LevelPlay; who: string; changed: ReadonlyMap<string, number> }) {
  const { items, goals } = play.level.contents
  const view = play.view(who)
  const carried = Object.entries(view.carries)
  return (
    <aside>
      <section>
        <h2>Inventory</h2>
        <ul className="carried" data-testid="carried">
          {carried.length === 0 && <li className="none">nothing</li>}
          {carried.map(([item, count]) => (
            <li key={item}>
              {items.find(({ name }) => name === item)?.title ?? item}
              {count > 1 && ` × ${String(count)}`}
            </li>
          ))}
        </ul>
      </section>
      <section>
        <h2>States</h2>
        <table data-testid="states">
          <tbody>
            {play.interactables.map((name) => (
              <tr key={name} className={play.time - (changed.get(name) ?? -5000) < 1500 ? 'fresh' : ''}>
                <td>{name}</td>
                <td data-testid={`state-${name}`}>{play.state(name)}</td>
              </tr>
            ))}
          </tbody>
        </table>
        <p className="goals">
          {goals.map(({ name, title }) => (
            <span key={name} className={play.goalsMet().includes(name) ? 'met' : ''}>
              {play.goalsMet().includes(name) ? '✓' : '○'} {title ?? name}
            </span>
          ))}
        </p>
      </section>
      <section className="log">
        <h2>Log, newest first</h2>
        <ol data-testid="log">
          {interesting(play.log).map((entry, i) => (
            <li key={`${String(entry.at)} ${String(i)}`} className={entry.what}>
              <time>{clockText(entry.at)}</time> {entryText(entry)}
            </li>
          ))}
        </ol>
      </section>
    </aside>
  )
}

/** Why the last press was not answered, as long as nothing else has happened. */
export function Unanswered({ log }: { log: readonly LogEntry[] }) {
  const last = log.findLast((entry) => entry.what === 'press')
  if (last?.outcome !== 'unanswered') return null
  return (
    <div className="unanswered" data-testid="unanswered">
      Nothing answers the press here.
      <ul>
        {last.nearby.map((near) => (
          <li key={near.interactable}>{notAskedText(near)}</li>
        ))}
        {last.nearby.length === 0 && <li>nothing is near by</li>}
      </ul>
    </div>
  )
}

const dull = new Set(['walks', 'steers', 'arrived', 'stopped', 'heard'])

function interesting(log: readonly LogEntry[]): LogEntry[] {
  return log
    .filter((entry) => !dull.has(entry.what))
    .slice(-60)
    .reverse()
}
